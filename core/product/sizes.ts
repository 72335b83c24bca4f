// Several measures in one cell: "30 x 20 x 10 cm" under "Maße (LxBxH)".
import { foldLoosely } from '../text';
import type { FieldBook } from './fields';

const w = (text: string): string[] => text.split(' ');
/** Words by which files call such a column, and those with which it speaks of the parcel. From memory of everyday words. */
const sizeWords = w(
    'dimension dimensions masse maße abmessung abmessungen measurements medidas dimensiones misure dimensioni afmetingen afmeting matt mal wymiary 寸法 外寸 サイズ',
  ),
  packWords = w(
    'pack packed package packaging parcel box carton karton verpackung verpackungs paket versand colis emballage caja scatola doos 梱包 箱',
  );
/** What the letters of "LxBxH" stand for; depth is our length, where no length is named beside it. */
const letters: Readonly<Record<string, Size>> = {
  l: 'length',
  b: 'width',
  w: 'width',
  h: 'height',
  t: 'length',
  d: 'length',
  p: 'length',
};
type Size = 'length' | 'width' | 'height';
const usual: readonly Size[] = ['length', 'width', 'height'];
const orders: readonly (readonly Size[])[] = [
  usual,
  ['width', 'length', 'height'],
  ['width', 'height', 'length'],
  ['height', 'width', 'length'],
];
const lettered = /(?<!\p{L})([lbwhtdp])\s*[x×*/]\s*([lbwhtdp])\s*[x×*/]\s*([lbwhtdp])(?!\p{L})/iu;

const keysOf = (order: readonly Size[], isParcel: boolean): string[] =>
  order.map((s) => (isParcel ? `fact.parcel_${s}` : `fact.${s}`));
const areHeld = (keys: readonly string[], fields: Pick<FieldBook, 'get'>): boolean =>
  keys.every((k) => fields.get(k)?.kind === 'measure');

/** The three fields that the measures in each cell of a column fill, in their order; undefined where its heading speaks of none. */
export function readSizesHeading(heading: string, fields: Pick<FieldBook, 'get'>): string[] | undefined {
  const named = lettered
    .exec(heading)
    ?.slice(1)
    .map((l) => letters[l.toLowerCase()]!);
  const order = named && new Set(named).size === 3 ? named : undefined;
  const tokens = foldLoosely(heading).split(' ');
  const says = (words: readonly string[]): boolean =>
    tokens.some((t) =>
      words.some(
        (x) => t === x || (x.length > 4 && t.includes(x)) || (/[^\p{Script=Latin}]/u.test(x) && t.includes(x)),
      ),
    );
  if (!order && !says(sizeWords)) return undefined;
  const keys = keysOf(order ?? usual, says(packWords));
  return areHeld(keys, fields) ? keys : undefined;
}

/** Every three fields that one column may fill together, in every order that is usual. */
export const listSizes = (fields: Pick<FieldBook, 'get'>): string[][] =>
  [false, true].flatMap((isParcel) => orders.map((o) => keysOf(o, isParcel))).filter((keys) => areHeld(keys, fields));

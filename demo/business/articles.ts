// Brindlewick's articles in its business system: what the catalog has, some that it has not yet, goods in boxes beside pieces,
// goods that are blocked, and long texts with the markup of the program that they were written in.
import { computeGs1CheckDigit } from '@basileus/core/identifiers';
import type { DemoProduct } from '../catalog';

export interface DemoArticle {
  article: string;
  variant: string;
  unit: string;
  barcode: string;
  name: string;
  group: string;
  cost: string;
  list_price: string;
  on_hand: number;
  blocked: boolean;
  long_text: string;
  changed: string;
}

const changed = '2026-11-02T04:10:00.000Z';
const text = (p: DemoProduct, field: string): string => {
  const v = p.fields[field];
  return typeof v === 'string' ? v : '';
};
const money = (amount: string): string => (amount === '' ? '' : Number(amount).toFixed(4));

/** The long text as the old editor kept it: a heading of its own, styles, and a table of facts. */
const writeLong = (name: string, about: string): string =>
  `<div style="font-family:Arial;font-size:11pt"><h3>${name}</h3>${about}<table border="1"><tr><td>Kept by</td><td>Brindlewick</td></tr></table></div>`;

/** An article for every item that is sold, but for bundles, which the system does not know. */
function* listKnown(products: Iterable<DemoProduct>): Generator<DemoArticle> {
  let n = 0;
  for (const p of products) {
    if (p.kind === 'family' || p.kind === 'bundle') continue;
    const sku = text(p, 'sku'),
      family = text(p, 'parent_sku');
    const isVariant = family !== '' && sku.startsWith(`${family}-`);
    const piece: DemoArticle = {
      article: isVariant ? family : sku,
      variant: isVariant ? sku.slice(family.length + 1) : '',
      unit: 'PCS',
      barcode: text(p, 'gtin'),
      name: text(p, 'title'),
      group: text(p, 'category').toUpperCase(),
      cost: money(text(p, 'cost')),
      list_price: money(text(p, 'price')),
      on_hand: Number(text(p, 'stock') || 0),
      blocked: n % 97 === 41,
      long_text: writeLong(text(p, 'title'), text(p, 'description')),
      changed,
    };
    yield piece;
    // Some are sold to shops by the dozen: the same article in another unit.
    if (n % 40 === 7)
      yield {
        ...piece,
        unit: 'BOX',
        barcode: '',
        cost: money(String(Number(piece.cost || 0) * 12)),
        on_hand: Math.floor(piece.on_hand / 12),
      };
    n++;
  }
}

const colours = [
  ['AMB', 'Amber'],
  ['SMO', 'Smoke'],
  ['CLR', 'Clear'],
] as const;
const shapes = ['Tumbler', 'Carafe', 'Vase', 'Bowl', 'Candle holder'] as const;
/** A series of glass that was bought this week and is in no catalog yet. */
function* listNew(): Generator<DemoArticle> {
  let n = 0;
  for (const shape of shapes)
    for (const [code, colour] of colours) {
      const body = `952${String(880_000_000 + ++n)}`;
      const name = `Pellow Fenlight ${shape} ${colour}`;
      yield {
        article: `GL-FEN-${shape.slice(0, 3).toUpperCase()}`,
        variant: code,
        unit: 'PCS',
        barcode: body + computeGs1CheckDigit(body),
        name,
        group: 'GLASSES',
        cost: money(String(3 + n * 0.35)),
        list_price: money(String(9.99 + n)),
        on_hand: 24 + n,
        blocked: false,
        long_text: writeLong(name, `<p>Mouth-blown, with a heavy foot. ${shape} of the Fenlight series.</p>`),
        changed,
      };
    }
}

/** All articles of the demo's business system. */
export function* buildArticles(products: Iterable<DemoProduct>): Generator<DemoArticle> {
  yield* listKnown(products);
  yield* listNew();
}

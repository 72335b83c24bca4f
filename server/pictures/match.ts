// Pictures matched to items by their names, and brought in as an update file like any other: looked at first, taken back later.
import type { matchPictures as endpoint } from '@basileus/contract';
import { type MatchedPictures, matchPictures, namePicture } from '@basileus/core/pictures';
import { writeRows } from '@basileus/core/sheet';
import type { z } from 'zod';
import { type Db, rowsOf } from '../database';
import { storeFile } from '../files';
import { AppError } from '../http';
import { ownReading, takePrepared } from '../imports';
import { say } from '@basileus/core/text';

type Asked = z.output<typeof endpoint.body>;
type Answer = z.output<typeof endpoint.response>;
interface Row {
  sku: string;
  title: string;
  before: string[];
  after: string[];
}

const rowsShown = 100;
const isLink = (text: string): boolean => /^https?:\/\//i.test(text);

/** Names of files as links under an address; links as they are. */
function toLinks({ links, under }: Asked): string[] {
  const named = links.map((l) => l.trim()).filter((l) => l !== '');
  if (under === '' && named.some((l) => !isLink(l)))
    throw new AppError(
      'bad-input',
      say`“${named.find((l) => !isLink(l))!.slice(0, 80)}” is the name of a file, not a link.`,
      {
        field: 'under',
        remedy: say`Say under which address the files are.`,
      },
    );
  const base = under.replace(/\/*$/, '/');
  return named.map((l) =>
    isLink(l)
      ? l
      : base +
        l
          .replace(/\\/g, '/')
          .replace(/^(\.?\/)+/, '')
          .split('/')
          .map(encodeURIComponent)
          .join('/'),
  );
}

/** Items by what pictures may call them. */
async function loadNamed(db: Db, keys: readonly string[]): Promise<(key: string) => readonly string[]> {
  const byKey = new Map<string, string[]>();
  const put = (key: string, sku: string): void => {
    const known = byKey.get(key);
    if (!known) byKey.set(key, [sku]);
    else if (!known.includes(sku)) known.push(sku);
  };
  for (const r of await rowsOf<{ sku: string; sku_fold: string }>(
    db,
    'select sku, sku_fold from products where sku_fold = any(?) order by sku',
    [keys],
  ))
    put(r.sku_fold, r.sku);
  const numbers = keys.filter((k) => /^\d{8,14}$/.test(k));
  const padded = new Map<string, string[]>();
  for (const n of numbers) padded.set(n.padStart(14, '0'), [...(padded.get(n.padStart(14, '0')) ?? []), n]);
  for (const r of await rowsOf<{ sku: string; gtin14: string }>(
    db,
    'select sku, gtin14 from products where gtin14 = any(?) order by sku',
    [[...padded.keys()]],
  ))
    for (const key of padded.get(r.gtin14)!) put(key, r.sku);
  return (key) => byKey.get(key) ?? [];
}

async function makeRows(db: Db, { bySku }: MatchedPictures, how: Asked['how']): Promise<Row[]> {
  const held = await rowsOf<{ sku: string; title: string; pictures: string[] | null }>(
    db,
    'select sku, title, pictures from products where sku = any(?) order by shelf_order, parent_id is not null, id',
    [[...bySku.keys()]],
  );
  return held.map(({ sku, title, pictures }) => {
    const before = pictures ?? [],
      own = bySku.get(sku)!;
    return {
      sku,
      title,
      before,
      after: how === 'replace' ? own : [...before, ...own.filter((l) => !before.includes(l))],
    };
  });
}
const isSame = ({ before, after }: Row): boolean => before.join('\n') === after.join('\n');

/** Matches pictures to items; where it is asked, brings what would change in as an import, to be looked at there. */
export async function matchLinks(db: Db, asked: Asked): Promise<Answer> {
  const pictures = toLinks(asked).map(namePicture);
  const skusOf = await loadNamed(db, [...new Set(pictures.flatMap((p) => p.candidates.map((c) => c.key)))]);
  const matched = matchPictures(pictures, skusOf);
  const rows = await makeRows(db, matched, asked.how);
  const changed = rows.filter((r) => !isSame(r));
  if (asked.bring && changed.length === 0)
    throw new AppError('not-now', say`No item would have other pictures than it has.`, {
      remedy: say`Look at what the files are called: their names begin with the SKU or the barcode.`,
    });
  return {
    items: rows.length,
    changed: changed.length,
    pictures: [...matched.bySku.values()].reduce((n, l) => n + l.length, 0),
    rows: changed.slice(0, rowsShown),
    unmatched: { count: matched.unmatched.length, links: matched.unmatched.slice(0, rowsShown) },
    unclear: {
      count: matched.unclear.length,
      links: matched.unclear.slice(0, rowsShown).map((u) => ({ ...u, skus: [...u.skus] })),
    },
    import: asked.bring ? await bring(db, changed) : null,
  };
}

const separator = '|';
const columns = [
  { name: 'SKU', field: 'sku' },
  { name: 'Pictures', field: 'pictures' },
] as const;

async function bring(db: Db, rows: readonly Row[]): Promise<number> {
  // A bar in a link is written as RFC 3986 has it, since a bar divides links here.
  const cells = rows.map((r) => [r.sku, r.after.map((l) => l.replaceAll(separator, '%7C')).join(separator)]);
  const heading = columns.map((c) => c.name);
  const text = writeRows([heading, ...cells], { delimiter: ',', newline: '\r\n', forPeople: false });
  const name = 'Pictures by their names.csv';
  return db.transaction(async (tx) => {
    const bytes = Buffer.from(text, 'utf8');
    const file = await storeFile(
      tx,
      name,
      (async function* () {
        yield await Promise.resolve(bytes);
      })(),
    );
    return takePrepared(
      tx,
      { id: file.id, name },
      {
        ...ownReading,
        listSeparator: separator,
        columns: columns.map((c, index) => ({
          ...{ index, name: c.name, field: c.field, why: 'chosen' },
          samples: cells.slice(0, 3).map((row) => row[index]!.slice(0, 200)),
        })),
        mode: 'update',
      },
      [heading, ...cells.slice(0, 20)],
    );
  });
}

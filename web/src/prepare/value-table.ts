// A table of values as people take it out to a spreadsheet and bring it back, by file or by paste.
import type { ValueRow } from '@basileus/contract';
import type { WrittenCode } from '@basileus/core/listing';
import type { Rulebook } from '@basileus/core/rulebook';
import { fold, foldLoosely } from '@basileus/core/text';
import Papa from 'papaparse';

const heads = ['Attribute', 'Our value', 'Items', 'Their value'] as const;

/** What the codes of an attribute are called, by `attribute\tcode`; a code itself where two entries are called the same. */
function nameCodes(rulebook: Rulebook): ReadonlyMap<string, string> {
  const names = new Map<string, string>();
  for (const a of rulebook.attributes) {
    const entries = (a.codes === undefined ? undefined : rulebook.codeLists[a.codes]?.entries) ?? [];
    const times = new Map<string, number>();
    for (const e of entries) times.set(fold(e.label), (times.get(fold(e.label)) ?? 0) + 1);
    for (const e of entries) names.set(`${a.key}\t${e.code}`, times.get(fold(e.label)) === 1 ? e.label : e.code);
  }
  return names;
}

/** The table as CSV: what each of our values becomes now, empty where nothing. */
export function writeValueTable(rows: readonly ValueRow[], rulebook: Rulebook): string {
  const names = nameCodes(rulebook);
  return Papa.unparse(
    {
      fields: [...heads],
      data: rows.map((r) => [
        r.label,
        r.ours,
        r.items,
        r.theirs === null ? '' : (names.get(`${r.attribute}\t${r.theirs}`) ?? r.theirs),
      ]),
    },
    { escapeFormulae: true },
  );
}

/** What a spreadsheet was kept from running as a formula, as it was before. */
const plain = (cell: string | undefined): string => (cell ?? '').trim().replace(/^'(?=[=+\-@\t\r])/, '');

/** Reads such a table, its columns in any order; or without a head attribute, our value and their value. */
export function readValueTable(text: string): WrittenCode[] {
  const rows = Papa.parse<string[]>(text.replace(/^\uFEFF/, '').trim(), { skipEmptyLines: 'greedy' }).data;
  const first = (rows[0] ?? []).map((c) => foldLoosely(c.trim()));
  const named = [heads[0], heads[1], heads[3]].map((h) => first.indexOf(foldLoosely(h)));
  const isHeaded = named.every((n) => n >= 0);
  const [attribute, ours, theirs] = (isHeaded ? named : [0, 1, 2]) as [number, number, number];
  return rows.slice(isHeaded ? 1 : 0).map((cells) => ({
    attribute: plain(cells[attribute]),
    ours: plain(cells[ours]),
    theirs: plain(cells[theirs]),
  }));
}

// Which codes of a market our values become: everywhere, or at a node of its tree.
import type { listValueMap, readValueMap, ValueRow } from '@basileus/contract';
import {
  carryProposals,
  type Correspondences,
  createMatcher,
  everywhere,
  findCodes,
  findSourceField,
  listSourceFields,
  matchedBy,
  readCodes,
  type WrittenCode,
} from '@basileus/core/listing';
import type { RulebookAttribute } from '@basileus/core/rulebook';
import { fold, say } from '@basileus/core/text';
import type { z } from 'zod';
import type { Db } from '../database';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { loadCatalogCounts } from '../products';
import { loadCorrespondences, type Market } from '../markets';
import { type AskOthers, prepareOthers } from './elsewhere';
import { type Entries, listListed } from './listed';
import { labelNode, listPath, refuseStranger, sayAnew } from './nodes';

/** Words of one field that are looked through, those of most items. */
const mostWords = 5000;

/** Words that stand in a field of ours, by how many items have them; of a field whose words are not kept, none. */
async function loadWords(db: Db, field: string): Promise<{ name: string; count: number }[]> {
  if (field === 'brand' || field === 'category') return loadCatalogCounts(db, field);
  return field.startsWith('fact.') ? loadCatalogCounts(db, 'fact', field.slice('fact.'.length)) : [];
}

/** Fields of ours that feed an attribute at a node; everywhere, each that feeds it somewhere. */
function listFeeding(a: RulebookAttribute, path: readonly string[], c: Correspondences): string[] {
  if (path.length === 0) return listSourceFields(a, c);
  const field = findSourceField(a, path, c);
  return field === undefined ? [] : [field];
}

/** Our words in some fields. */
async function loadWordsFor(db: Db, fields: readonly string[]): Promise<Map<string, number>> {
  const words = new Map<string, number>();
  for (const f of fields)
    for (const { name, count } of await loadWords(db, f)) words.set(name, (words.get(name) ?? 0) + count);
  return words;
}

/** Where the code of a word was chosen: the nearest node that says one. */
function findChosenAt(a: string, word: string, path: readonly string[], c: Correspondences): string | null {
  const said = c.codes.get(a);
  return (
    [...path].reverse().find((n) => said?.get(n)?.has(word)) ?? (said?.get(everywhere)?.has(word) ? everywhere : null)
  );
}

type ValueMap = z.output<typeof listValueMap.response>;
type Asked = z.output<typeof listValueMap.query>;

/** A page of our values with what each becomes: those that become nothing first, then by attribute, those of most items first. */
export async function loadValueMap(db: Db, market: Market, asked: Asked): Promise<ValueMap> {
  refuseStranger(market, asked.node);
  const c = await loadCorrespondences(db, market.id),
    path = listPath(market, asked.node),
    search = fold(asked.search);
  const found: (Omit<ValueRow, 'proposals' | 'node'> & { entries: Entries; fields: string[] })[] = [],
    attributes: ValueMap['attributes'] = [],
    cut: string[] = [];
  for (const { a, entries } of listListed(market)) {
    const fields = listFeeding(a, path, c);
    const words = [...(await loadWordsFor(db, fields))].sort(([, m], [, n]) => n - m);
    if (words.length === 0) continue;
    if (words.length > mostWords) cut.push(a.label);
    const match = createMatcher(entries, findCodes(a.key, path, c));
    const rows = words.slice(0, mostWords).map(([ours, items]) => ({
      attribute: a.key,
      label: a.label,
      ours,
      items,
      entries,
      fields,
      ...match(ours),
    }));
    attributes.push({
      key: a.key,
      label: a.label,
      values: rows.length,
      open: rows.filter((r) => r.by === 'nothing').length,
    });
    if (asked.attribute === '' || asked.attribute === a.key)
      found.push(...(search === '' ? rows : rows.filter((r) => fold(r.ours).includes(search))));
  }
  const order = (by: ValueRow['by']): number => Number(by !== 'nothing');
  const rows = found
    .filter((r) => asked.by === '' || r.by === asked.by)
    .sort((x, y) => order(x.by) - order(y.by) || x.label.localeCompare(y.label) || y.items - x.items);
  const page = rows.slice(asked.from, asked.from + asked.limit);
  const askOthers: AskOthers = page.some((r) => r.by === 'nothing') ? await prepareOthers(db, market) : () => [];
  return {
    rows: page.map(({ entries, fields, ...r }) => ({
      ...r,
      node: r.by === 'chosen' ? findChosenAt(r.attribute, fold(r.ours), path, c) : null,
      // What is matched needs none.
      proposals: r.by === 'nothing' ? carryProposals(r.ours, askOthers(fields, r.ours), entries) : [],
    })),
    total: rows.length,
    counts: Object.fromEntries(
      matchedBy.map((by) => [by, found.filter((r) => r.by === by).length]),
    ) as ValueMap['counts'],
    attributes,
    cut,
  };
}

interface Code {
  attribute: string;
  ours: string;
  theirs: string | null;
}

/** Refuses codes that are on no list of the market. */
function judgeCodes(market: Market, codes: readonly Code[]): void {
  const known = new Map(
    listListed(market).map(({ a, entries }) => [a.key, { a, codes: new Set(entries.map((e) => e.code)) }]),
  );
  for (const { attribute, theirs } of codes) {
    const listed = known.get(attribute);
    if (!listed)
      throw new AppError('bad-input', say`“${attribute}” is not a choice on ${market.name}.`, { field: 'attribute' });
    if (theirs !== null && !listed.codes.has(theirs))
      throw new AppError('bad-input', say`“${theirs}” is not a code of ${listed.a.label}.`, {
        field: 'theirs',
        remedy: say`Choose one from the list.`,
      });
  }
}

/** Says which codes words of ours become at a node, all of them or none; null forgets one. The market's listings follow. */
export async function putCodes(
  db: Db,
  market: Market,
  node: string,
  codes: readonly Code[],
  actor: string,
): Promise<{ refreshed: number; job: string | null }> {
  refuseStranger(market, node);
  judgeCodes(market, codes);
  return sayAnew(db, market, async (tx) => {
    // Words that are one when they are folded are one here.
    const folded = codes.map((code) => ({ ...code, word: fold(code.ours) }));
    const last = [...new Map(folded.map((code) => [`${code.attribute}\t${code.word}`, code])).values()];
    const known = await tx.raw<{ rows: { attribute: string; ours: string }[] }>(
      `select attribute, ours from correspondences where market_id = ? and kind = 'value' and node = ? and attribute = any(?)`,
      [market.id, node, [...new Set(last.map((l) => l.attribute))]],
    );
    const said = new Set(last.map((l) => `${l.attribute}\t${l.word}`));
    const gone = known.rows.filter((k) => said.has(`${k.attribute}\t${fold(k.ours)}`));
    await tx.raw(
      `delete from correspondences c using jsonb_to_recordset(?::jsonb) as g(attribute text, ours text)
        where c.market_id = ? and c.kind = 'value' and c.node = ? and c.attribute = g.attribute and c.ours = g.ours`,
      [JSON.stringify(gone), market.id, node],
    );
    await tx.raw(
      `insert into correspondences (market_id, kind, node, attribute, ours, theirs)
        select ?, 'value', ?, r.attribute, r.ours, r.theirs
        from jsonb_to_recordset(?::jsonb) as r(attribute text, ours text, theirs text) where r.theirs is not null`,
      [market.id, node, JSON.stringify(last)],
    );
    const first = last[0]!;
    await recordHistory(tx, actor, {
      is: 'codes-said',
      market: market.name,
      category: labelNode(market, node),
      attribute: market.labelOf(first.attribute),
      ours: first.ours,
      theirs: first.theirs,
      values: last.length,
    });
  });
}

/** What a table of values would change that somebody has made elsewhere; nothing is written. */
export async function readValueTable(
  db: Db,
  market: Market,
  node: string,
  rows: readonly WrittenCode[],
): Promise<z.output<typeof readValueMap.response>> {
  refuseStranger(market, node);
  const c = await loadCorrespondences(db, market.id),
    path = listPath(market, node),
    listed = listListed(market);
  const { codes, faults } = readCodes(
    rows,
    listed.map(({ a, entries }) => ({ key: a.key, label: a.label, entries })),
  );
  const matchers = new Map(listed.map(({ a, entries }) => [a.key, createMatcher(entries, findCodes(a.key, path, c))]));
  const judged = codes.map((code) => {
    const now = matchers.get(code.attribute)!(code.ours);
    // An empty cell takes back what was chosen, and is nothing to take back where nothing was.
    return {
      ...code,
      before: now.theirs,
      isSame: code.theirs === null ? now.by !== 'chosen' : code.theirs === now.theirs,
    };
  });
  return {
    changes: judged.flatMap(({ isSame, ...code }) => (isSame ? [] : code)),
    same: judged.filter((j) => j.isSame).length,
    faults,
  };
}

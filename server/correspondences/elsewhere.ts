// What words of ours are on other markets, so that what was said once need not be found out again.
import {
  type Correspondences,
  createMatcher,
  findCodes,
  listSourceFields,
  type MeantThere,
} from '@basileus/core/listing';
import type { Db } from '../database';
import { loadCorrespondences, loadMarkets, type Market } from '../markets';
import { listListed } from './listed';

/** What a word of one of these fields of ours is on other markets. */
export type AskOthers = (fields: readonly string[], word: string) => MeantThere[];

/** Lists of other markets by the field of ours that feeds them, each looked through once. */
export async function prepareOthers(db: Db, market: Market): Promise<AskOthers> {
  const others = (await loadMarkets(db)).filter((m) => m.id !== market.id);
  const said = await Promise.all(others.map((m) => loadCorrespondences(db, m.id)));
  const byField = new Map<string, ((word: string) => MeantThere[])[]>();
  others.forEach((other, i) => {
    for (const [field, ask] of listAsks(other, said[i]!)) byField.set(field, [...(byField.get(field) ?? []), ask]);
  });
  return (fields, word) => fields.flatMap((f) => (byField.get(f) ?? []).flatMap((ask) => ask(word)));
}

function* listAsks(other: Market, c: Correspondences): Generator<[string, (word: string) => MeantThere[]]> {
  for (const { a, entries } of listListed(other)) {
    const match = createMatcher(entries, findCodes(a.key, [], c)),
      byCode = new Map(entries.map((e) => [e.code, e]));
    const ask = (word: string): MeantThere[] => {
      const { theirs, by } = match(word);
      const entry = theirs === null ? undefined : byCode.get(theirs);
      return entry ? [{ market: other.name, entry, isChosen: by === 'chosen' }] : [];
    };
    for (const field of listSourceFields(a, c)) yield [field, ask];
  }
}

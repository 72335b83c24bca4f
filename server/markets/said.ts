// What people have said of a market, as it is kept and as the core wants it.
import {
  type Correspondences,
  createCorrespondences,
  type SaidCode,
  type SaidSource,
  sourceSchema,
} from '@basileus/core/listing';
import { compileFields } from '@basileus/core/product';
import { type Db, parseColumn, rowsOf } from '../database';
import { loadFields } from '../fields';

const noFields = compileFields({ fields: [], languages: [], currencies: [] });

/** What is said of a market, as it is kept: sources of attributes, codes of our values, categories of ours. */
export async function loadSaid(
  db: Db,
  marketId: number,
): Promise<{ sources: SaidSource[]; codes: SaidCode[]; categories: ReadonlyMap<string, string> }> {
  const sources = await rowsOf<{ attribute: string; node: string; source: unknown }>(
    db,
    'select attribute, node, source from attribute_sources where market_id = ? order by attribute, node',
    [marketId],
  );
  const rows = await rowsOf<SaidCode & { kind: 'category' | 'value' }>(
    db,
    `select kind, attribute, node, ours, theirs from correspondences where market_id = ? and kind <> 'unwanted'`,
    [marketId],
  );
  return {
    sources: sources.map((s) => ({
      ...s,
      source: parseColumn('attribute_sources.source', sourceSchema, s.source),
    })),
    codes: rows.filter((r) => r.kind === 'value'),
    categories: new Map(rows.filter((r) => r.kind === 'category').map((r) => [r.ours, r.theirs])),
  };
}

/** The correspondences of a market, as the core wants them. */
export async function loadCorrespondences(
  db: Db,
  marketId: number,
): Promise<Correspondences & { categories: ReadonlyMap<string, string> }> {
  const { sources, codes, categories } = await loadSaid(db, marketId);
  // Only a formula asks what fields the house has.
  const fields = sources.some((s) => s.source.is === 'formula') ? await loadFields(db) : noFields;
  return { ...createCorrespondences(sources, codes, fields), categories };
}

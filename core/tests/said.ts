// What was said of a market, for tests: by the whole market unless a node is named.
import { type Correspondences, createCorrespondences, everywhere, type SaidCode, type Source } from '../listing';
import { compileFields } from '../product';

const noFields = compileFields({ fields: [], languages: [], currencies: [] });

export const said = (
  sources: Readonly<Record<string, Source>>,
  codes: readonly Omit<SaidCode, 'node'>[] = [],
): Correspondences =>
  createCorrespondences(
    Object.entries(sources).map(([attribute, source]) => ({ attribute, node: everywhere, source })),
    codes.map((c) => ({ ...c, node: everywhere })),
    noFields,
  );

// What checking has found of a listing, and whether that is what stands there already.
import { createHash } from 'node:crypto';
import type { Finding } from '@basileus/core/checks';
import type { HeldOperation } from '@basileus/core/feed';
import type { Origin, Values } from '@basileus/core/listing';
import type { Sight } from './members';
import type { FullRow } from './rows';

interface Found {
  values: Values;
  origins: Readonly<Record<string, Origin>>;
  findings: Finding[];
  planned: HeldOperation[];
  refusalOpen: boolean;
  /** What its price leaves, in thousandths; null where that is not known, or nothing is sold. */
  margin: number | null;
}

export interface Outcome extends Found {
  id: number;
  ownCategory: string;
  /** Version of the product that it was made from. */
  productVersion: number;
  rowDigest: string;
  findingsDigest: string;
  /** What it shows the others of its family; null where it has none. */
  familySight: Sight | null;
  /** True where what stands in the database says something else. */
  isRowNew: boolean;
  areFindingsNew: boolean;
  /** The product version and market revision against which it was checked before. */
  before: { productVersion: number; revision: number; familySight: Sight | null; margin: number | null };
}

const digest = (facts: unknown): string => createHash('md5').update(JSON.stringify(facts)).digest('base64');

/** An outcome beside what it takes the place of. Digests, not the values themselves, are compared: they need not be read. */
export function toOutcome(row: FullRow, found: Found, familySight: Sight | null): Outcome {
  const { values, origins, planned, refusalOpen, findings, margin } = found;
  const ownCategory = row.category ?? '';
  const rowDigest = digest([values, origins, planned, refusalOpen, ownCategory]),
    findingsDigest = findings.length ? digest(findings) : '';
  return {
    id: row.listing_id,
    values,
    origins,
    planned,
    refusalOpen,
    findings,
    margin,
    ownCategory,
    productVersion: row.version,
    rowDigest,
    findingsDigest,
    familySight,
    isRowNew: row.row_digest !== rowDigest || row.refusal_open !== refusalOpen,
    areFindingsNew: row.findings_digest !== findingsDigest,
    before: {
      productVersion: row.product_version,
      revision: row.market_revision,
      familySight: row.family_sight,
      margin: row.margin,
    },
  };
}

import type { Value } from '../listing/values';
import type { PictureFacts } from '../pictures';
import type { PricesFrom } from '../pricing/prior-price';
import type { Usual } from '../quantity';

export const levels = ['blocker', 'caution', 'tip'] as const;
export type Level = (typeof levels)[number];

/** A mend that a finding offers. `safe` ones are mechanical and may be applied to all rows without a look at each. */
export type Remedy =
  | { kind: 'set'; field: string; value: Value; safe: boolean }
  | { kind: 'clear'; field: string; safe: boolean }
  /** A person chooses from the field's list, which its rulebook has. */
  | { kind: 'choose'; field: string }
  | { kind: 'fill'; field: string };

/** A fact that a finding's sentence names. */
export type Param = string | number | readonly string[];

/** What a check says of one field of one listing. JSON: stored and sent as it is, worded at the edge. */
export interface Finding {
  check: string;
  message: string;
  level: Level;
  field: string;
  value: string;
  params: Record<string, Param>;
  remedies: Remedy[];
}

/** Facts about other rows that some checks need; loaded set-wise by the caller. */
export interface CheckContext {
  /** Other SKUs of the company that carry the same number, padded to 14. */
  sameGtin?: readonly string[];
  /** Other SKUs that differ from this one only in capitals or marks. */
  sameSku?: readonly string[];
  /** Units of a currency that one unit of the house currency buys, by ISO 4217 code, where somebody has said. */
  rates?: Readonly<Record<string, string>>;
  /** What measures usually are among the other items of its category, by attribute; `of` is the name of that category. */
  usual?: { of: string; measures: Readonly<Record<string, Usual>> };
  /** What was found behind links to pictures, by link; of those that were looked at. */
  pictures?: ReadonlyMap<string, PictureFacts>;
  /** At which prices the market has sold it, in order of time; where a sale is to be compared with them. */
  pricesFrom?: readonly PricesFrom[];
  /** True where the market has burnt the SKU and the entry is wanted back. */
  isBurnt?: boolean;
  /** The other rows of the family: the parent first, if it is known. */
  family?: readonly { sku: string; role: 'parent' | 'variant'; values: Readonly<Record<string, Value>> }[];
}

/** A value as held: one text, or a list of texts. Numbers and measures are canonical text ("24.5", "24 cm"). */
export type Value = string | readonly string[];
export type Values = Readonly<Record<string, Value>>;

/** True if there is something in the value other than white space. */
export function isFilled(value: Value | undefined): boolean {
  if (value === undefined) return false;
  // Most texts begin with a plain sign; only the rest need trimming.
  if (typeof value === 'string')
    return value.charCodeAt(0) > 32 && value.charCodeAt(0) < 128 ? true : value !== '' && value.trim() !== '';
  for (const v of value) if (v.trim() !== '') return true;
  return false;
}

/** The filled items of a value, as a list. */
export function toItems(value: Value | undefined): readonly string[] {
  if (value === undefined) return [];
  return (typeof value === 'string' ? [value] : value).filter((v) => v.trim() !== '');
}

/** A value as one text, for a cell, a message or a comparison. */
export const toText = (value: Value | undefined): string =>
  value === undefined ? '' : typeof value === 'string' ? value : value.join(' | ');

export const isSameValue = (a: Value | undefined, b: Value | undefined): boolean => toText(a) === toText(b);

/** How an item stands in its family. */
export type RowRole = 'single' | 'parent' | 'variant';

/** An entry of the market that is of the same item, as the market lists it. */
export interface MarketEntry {
  number: string;
  title: string;
  /** The leaf it stands in, by our key; empty where the market does not say. */
  category: string;
  /** What it says of itself, by attribute. */
  facts: Values;
}

/** One SKU on one market, as the checks and the feed see it. */
export interface Listing {
  sku: string;
  role: RowRole;
  parentSku: string | undefined;
  category: string;
  axes: readonly string[];
  values: Values;
  /** Cost of one piece in the house currency, canonical number, or undefined where nobody knows it. */
  cost: string | undefined;
  /** Details last accepted by the market, where it has the entry; protected facts are compared with these. */
  accepted: Values | undefined;
  /** The entry that it joins, or may join, with what we say of the same facts. */
  entry?: { there: MarketEntry; ours: Values } | undefined;
}

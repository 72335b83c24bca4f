/** A market's rule for SKUs, given as data. Lengths in characters. */
export interface SkuRule {
  min: number;
  max: number;
  allowed: 'letters-digits' | 'letters-digits-marks' | 'printable';
  upperCaseOnly: boolean;
}

export type SkuFault = 'empty' | 'too-short' | 'too-long' | 'forbidden-characters' | 'lower-case' | 'edge-space';

const patterns = {
  'letters-digits': /[^A-Za-z0-9]/gu,
  'letters-digits-marks': /[^A-Za-z0-9._/-]/gu,
  printable: /[^\x21-\x7e ]/gu,
} as const;

/** First fault of a SKU under a rule, or undefined. */
export function findSkuFault(sku: string, rule: SkuRule): SkuFault | undefined {
  if (sku.trim() === '') return 'empty';
  if (sku !== sku.trim()) return 'edge-space';
  if (sku.length < rule.min) return 'too-short';
  if (sku.length > rule.max) return 'too-long';
  if (sku.search(patterns[rule.allowed]) >= 0) return 'forbidden-characters';
  if (rule.upperCaseOnly && sku !== sku.toUpperCase()) return 'lower-case';
  return undefined;
}

/** The characters of a SKU that the rule does not allow, each once; a space is written as the open box that stands for it. */
export const listForbiddenSkuCharacters = (sku: string, rule: SkuRule): string[] => [
  ...new Set((sku.match(patterns[rule.allowed]) ?? []).map((c) => (c === ' ' ? '␣' : c))),
];

/**
 * What is left of a SKU without case and marks: two SKUs of one form are probably one, mistyped. Letters of every script
 * count; a SKU of marks alone stays as it is and is like no other.
 */
export const foldSku = (sku: string): string => {
  const folded = sku
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{M}\p{N}]/gu, '');
  return folded === '' ? sku : folded;
};

/** Capitals and widths apart, and whatever mark stands between its parts. */
const unmark = (sku: string): string =>
  sku
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{M}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '') || sku;
/** Whether two SKUs have the same parts in the same places, so that one of them is the other, mistyped: `fp 20_cm`, FP-20-CM. */
export const isSameSkuMistyped = (a: string, b: string): boolean => a !== b && unmark(a) === unmark(b);

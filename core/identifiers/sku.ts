/** A market's rule for SKUs, given as data. Lengths in characters. */
export interface SkuRule {
  min: number;
  max: number;
  allowed: 'letters-digits' | 'letters-digits-marks' | 'printable';
  upperCaseOnly: boolean;
}

export type SkuFault = 'empty' | 'too-short' | 'too-long' | 'forbidden-characters' | 'lower-case' | 'edge-space';

const patterns = {
  'letters-digits': /[^A-Za-z0-9]/g,
  'letters-digits-marks': /[^A-Za-z0-9._/-]/g,
  printable: /[^\x21-\x7e ]/g,
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

/** The characters of a SKU that the rule does not allow, each once. */
export const listForbiddenSkuCharacters = (sku: string, rule: SkuRule): string =>
  [...new Set(sku.match(patterns[rule.allowed]) ?? [])].join(' ');

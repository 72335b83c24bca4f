// All checks in the order in which their findings are shown. Ids are permanent: findings are stored under them.
import type { CheckDefinition } from './define-check';
import { categoryMissing } from './rules/category-missing';
import { demandedMissing } from './rules/demanded-missing';
import { familyRules } from './rules/family-rules';
import { fileForm } from './rules/file-form';
import { forbiddenHtml } from './rules/forbidden-html';
import { identifierTwice } from './rules/identifier-twice';
import { identifierWrong } from './rules/identifier-wrong';
import { listForm } from './rules/list-form';
import { liveFactChanged } from './rules/live-fact-changed';
import { marketEntry } from './rules/market-entry';
import { numberLimits } from './rules/number-limits';
import { parcelForm } from './rules/parcel-form';
import { patternMismatch } from './rules/pattern-mismatch';
import { pictureFiles } from './rules/picture-files';
import { pictureRules } from './rules/picture-rules';
import { priceRules } from './rules/price-rules';
import { priorPrice } from './rules/prior-price';
import { quantityRules } from './rules/quantity-rules';
import { skuForm } from './rules/sku-form';
import { textLanguage } from './rules/text-language';
import { textLength } from './rules/text-length';
import { textRules } from './rules/text-rules';
import { textWidth } from './rules/text-width';
import { titleForm } from './rules/title-form';
import { unitPrice } from './rules/unit-price';
import { unitNotAccepted } from './rules/unit-not-accepted';
import { unusedFilled } from './rules/unused-filled';
import { unusualMeasure } from './rules/unusual-measure';
import { valueNotAllowed } from './rules/value-not-allowed';
import { wrongType } from './rules/wrong-type';

/** Those that judge a listing in a category. */
export const checks: readonly CheckDefinition[] = [
  skuForm,
  identifierWrong,
  identifierTwice,
  marketEntry,
  demandedMissing,
  unusedFilled,
  wrongType,
  valueNotAllowed,
  numberLimits,
  unitNotAccepted,
  parcelForm,
  unusualMeasure,
  textWidth,
  textLength,
  textLanguage,
  patternMismatch,
  titleForm,
  textRules,
  forbiddenHtml,
  listForm,
  fileForm,
  pictureRules,
  pictureFiles,
  familyRules,
  priceRules,
  priorPrice,
  unitPrice,
  quantityRules,
  liveFactChanged,
];

const causesOf = (
  check: CheckDefinition,
  messages = Object.keys(check.messages),
): { check: string; message: string }[] => messages.map((message) => ({ check: check.id, message }));

/**
 * What is said of an item because of others than its own family: they carry its number, or nearly its SKU. Who they are
 * changes with them, so that a change of one is followed up in all that say this.
 */
export const causesInOthers = { number: causesOf(identifierTwice), sku: causesOf(skuForm, ['twin']) } as const;

/** The check that has no category to speak in. */
export const categoryCheck = categoryMissing.id;
/** The check that a person settles by a decision, not by a value. */
export const entryCheck = marketEntry.id;
/** True of causes that say of a field that it is empty and should not be. */
export const saysEmpty = ({ check, message }: { check: string; message: string }): boolean =>
  check === demandedMissing.id || (check === familyRules.id && message === 'axisMissing');

/** The check of what stands behind links, which is known of links and not of items. */
export const pictureCheck = pictureFiles.id;

/** All that is said of listings anywhere, also of those without a category. */
export const allChecks: readonly CheckDefinition[] = [categoryMissing, ...checks];
const byId = new Map(allChecks.map((c) => [c.id, c]));
export const getCheck = (id: string): CheckDefinition | undefined => byId.get(id);

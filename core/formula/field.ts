// What a formula gives as a value of one of our fields.
import type { Value } from '../listing/values';
import { getMoneyPlaces, type ProductField } from '../product';
import { Exact } from '../quantity';
import type { FormulaFault } from './fault';
import { type FormulaType, toFormulaType, type Worked } from './types';

const places = 6;

/** Types that a field takes: its own, and where it is text or a measure whatever can be written as one. */
const wantedFor = (field: ProductField): readonly FormulaType[] => {
  const own = toFormulaType(field.kind);
  return own === 'text'
    ? ['text', 'number', 'measure', 'date', 'yes-no']
    : own === 'measure'
      ? ['measure', 'text', 'number']
      : own === 'list'
        ? ['list', 'text']
        : [own];
};

/** Why a formula of this type cannot be for a field; undefined where it can. */
export const findResultFault = (type: FormulaType, field: ProductField, length: number): FormulaFault | undefined => {
  const wanted = wantedFor(field);
  return type === 'nothing' || wanted.includes(type)
    ? undefined
    : { at: { from: 0, to: length }, problem: { is: 'result', field: field.label, wanted, found: type } };
};

/** What was worked out as a field keeps it: amounts with the places of their currency, other numbers with six. Null where there is nothing. */
export function toFieldValue(worked: Worked, field: ProductField): Value | null {
  if (worked === null) return null;
  if (typeof worked === 'boolean') return worked ? 'yes' : 'no';
  if (worked instanceof Exact)
    return field.kind === 'money'
      ? worked.toFixed(getMoneyPlaces(field)).replace(/^-(0(\.0+)?)$/, '$1')
      : worked.toDecimalPlaces(places).toFixed();
  if (typeof worked === 'string') return worked === '' ? null : field.kind === 'list' ? [worked] : worked;
  return worked.length === 0 ? null : worked;
}

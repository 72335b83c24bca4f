import type { Value } from '@basileus/core/listing';
import type { DemandLevel } from '@basileus/core/rulebook';
import { pointLocale, readDate, readNumber } from '@basileus/core/quantity';

export interface GridColumn {
  key: string;
  title: string;
  width: number;
  kind: 'text' | 'number' | 'list' | 'choice' | 'choices' | 'yes-no' | 'date';
  /** What its texts are, where a line is not enough to write them in; of a list, what its entries lead to. */
  shape?: 'long' | 'measure' | 'pictures' | undefined;
  /** Units that a measure is offered in. */
  units?: readonly string[] | undefined;
  unit?: string | undefined;
  level?: DemandLevel | undefined;
  options?: readonly { code: string; label: string }[] | undefined;
  /** Many rows share its values: those that stand in it already are offered. */
  suggests?: boolean | undefined;
  readOnly?: boolean;
  mono?: boolean;
  help?: string | undefined;
  sortable?: boolean;
  /** The language of its texts, where it is not the house's. */
  language?: string | undefined;
}

const labelOf = (column: GridColumn, code: string): string =>
  column.options?.find((o) => o.code === code)?.label ?? code;

/** A value as the cell shows it. */
export const toCellText = (column: GridColumn, value: Value | null | undefined): string =>
  value === null || value === undefined
    ? ''
    : typeof value === 'string'
      ? labelOf(column, value)
      : value.map((v) => labelOf(column, v)).join(' | ');

const codeOf = (column: GridColumn, text: string): string => {
  const t = text.trim(),
    lower = t.toLowerCase();
  return column.options?.find((o) => o.code === t || o.label.toLowerCase() === lower)?.code ?? t;
};

/** A typed or pasted text as the column's value; null where it is empty. Numbers lose their grouping and currency sign. */
export function toCellValue(column: GridColumn, text: string): Value | null {
  const t = text.trim();
  if (t === '') return null;
  switch (column.kind) {
    case 'list':
      return t
        .split('|')
        .map((p) => p.trim())
        .filter(Boolean);
    case 'choices':
      return t
        .split('|')
        .map((p) => codeOf(column, p))
        .filter(Boolean);
    case 'choice':
      return codeOf(column, t);
    case 'yes-no':
      return /^(y|yes|true|1)$/i.test(t) ? 'yes' : /^(n|no|false|0)$/i.test(t) ? 'no' : t;
    case 'number': {
      const read = readNumber(t, pointLocale);
      return read.ok ? read.number : t;
    }
    case 'date':
      return readDate(t, 'day-first') ?? t;
    case 'text':
      return text;
  }
}

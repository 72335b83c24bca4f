// The part of the rulebook that the market itself goes by, as the document has it.
export type BookCondition = { attribute: string; is: string[] } | { attribute: string; filled: boolean };
export interface BookDemand {
  attribute: string;
  level: string;
  when?: BookCondition;
}
export interface BookAttribute {
  key: string;
  type: string;
  rows?: string;
  part?: string;
  codes?: string;
  minCharacters?: number;
  maxBytes?: number;
  maxColumns?: number;
  maxItems?: number;
  min?: string;
  max?: string;
  decimals?: number;
  pattern?: { regex: string };
  widths?: Record<string, string>;
  scripts?: object;
}
export interface BookSlot {
  key: string;
  holds: { what: string; attribute?: string; codes?: Record<string, string> };
}
export interface BookDocument {
  attributes: BookAttribute[];
  demandSets: Record<string, BookDemand[]>;
  codeLists: Record<string, { entries: { code: string }[] }>;
  tree: {
    key: string;
    code: string;
    parent?: string;
    takesItems?: boolean;
    uses?: string[];
    demands?: BookDemand[];
    axes?: string[];
  }[];
  families: { maxVariants: number; maxAxes: number };
  pictures: { max: number };
  offer: { quantityCap: number };
  text: { promotionalWords: Record<string, string[]> };
  forms: { key: string; slots: BookSlot[]; members?: { most: number; slots: BookSlot[] } }[];
}
export type Cells = Record<string, string>;
/** One thing that the market finds wrong with a record: a code, and the column. */
export interface Fault {
  code: string;
  column: string;
}
/** The word by which a column is emptied. */
export const emptied = '＊空＊';

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
  by?: 'language' | 'site';
  part?: string;
  codes?: string;
  tags?: string[];
  minCharacters?: number;
  maxCharacters?: number;
  minItems?: number;
  maxItems?: number;
  min?: string;
  max?: string;
}
export interface BookDocument {
  market: { languages: string[] };
  sites: { key: string; currency: string; languages: string[] }[];
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
  pictures: { min: number; max: number };
  offer: { quantityCap: number };
  text: { promotionalWords: Record<string, string[]> };
  forms: {
    key: string;
    container: { heads: unknown[] };
    slots: { key: string; holds: { what: string; attribute?: string } }[];
  }[];
}
export type Cells = Readonly<Record<string, string>>;
/** One thing that the market finds wrong with a row: a code, and the column. */
export interface Fault {
  code: string;
  field: string;
}

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
  by?: 'language';
  part?: string;
  codes?: string;
  units?: string[];
  minCharacters?: number;
  maxCharacters?: number;
  maxItems?: number;
  min?: string;
  max?: string;
  decimals?: number;
}
export interface BookDocument {
  attributes: BookAttribute[];
  demandSets: Record<string, BookDemand[]>;
  codeLists: Record<string, { entries: { code: string }[] }>;
  tree: {
    key: string;
    code?: string;
    parent?: string;
    takesItems?: boolean;
    uses?: string[];
    demands?: BookDemand[];
    axes?: string[];
  }[];
  pictures: { min: number; max: number; endings: string[] };
  offer: { quantityCap: number };
  text: { promotionalWords: Record<string, string[]> };
  forms: { key: string; slots: { key: string; holds: { what: string; attribute?: string } }[] }[];
}

/** What stands in an entry, by its place: words[tongue=ar].name, picture[], terms.price.@coin. */
export type Cells = Record<string, string | string[]>;
export interface Fault {
  id: string;
  at: string;
}

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
  part?: string;
  rows?: string;
  codes?: string;
  minCharacters?: number;
  maxCharacters?: number;
  maxItems?: number;
  min?: string;
  max?: string;
  decimals?: number;
  pattern?: { regex: string };
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
  forms: { key: string; slots: { key: string; as?: string; holds: { what: string; attribute?: string } }[] }[];
  transport: { quota: { seconds: number; requests: number; records: number } };
}

export type Json = string | number | boolean | null | Json[] | { [name: string]: Json };
export type Group = Record<string, Json>;

/** One thing that the market finds wrong with an entry: its name, and the place in the record. */
export interface Note {
  id: string;
  at: string;
}

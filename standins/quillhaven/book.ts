// The part of the rulebook that the market itself goes by, as the document has it.
export type BookCondition =
  | { attribute: string; is: string[] }
  | { attribute: string; filled: boolean }
  | { attribute: string; over: string }
  | { all: BookCondition[] }
  | { any: BookCondition[] }
  | { not: BookCondition };
export interface BookDemand {
  attribute: string;
  level: string;
  when?: BookCondition;
}
export interface BookAttribute {
  key: string;
  label: string;
  part?: string;
  type: string;
  rows?: string;
  codes?: string;
  units?: string[];
  minCharacters?: number;
  maxCharacters?: number;
  minItems?: number;
  maxItems?: number;
  pattern?: { regex: string };
  min?: string;
  max?: string;
}
export interface BookDocument {
  attributes: BookAttribute[];
  demands: BookDemand[];
  codeLists: Record<string, { entries: { code: string; label: string }[] }>;
  tree: { key: string; label: string; takesItems?: boolean; demands?: BookDemand[]; axes?: string[] }[];
  pictures: { min: number; advised: number; max: number };
  offer: { quantityCap: number };
  text: { promotionalWords: string[] };
  operations: Partial<Record<string, { form: string }>>;
  forms: { key: string; slots: { key: string }[] }[];
}

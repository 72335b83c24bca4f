// A check is data plus a function: id, level, reasons, messages, and what it prepares from the rulebook's category once.
// It judges value by value (`prepareValues`), value by value with the rest of the row beside it (`prepareCells`), or a row as
// a whole (`prepareRow`). The first is the quick way: each value is looked at once for all checks, and one that was good in
// another row is good.
// A check knows nothing of files, databases or screens.
import type { Listing, Value } from '../listing/values';
import type { CompiledAttribute, CompiledCategory } from '../rulebook/compile';
import type { CheckContext, Finding, Level, Remedy } from './finding';

/**
 * What one message of a check says: of one row (`says`), and of all rows that it is said of (`title`, which names nothing
 * that differs from row to row). `{{name}}` stands for a fact; `{{name:or}}`, `{{name:and}}` and `{{name:list}}` for
 * several; `{{name|one|many}}` for a number with its word.
 */
export interface Message {
  title: string;
  says: string;
  /** Where it is not that of the check. */
  level?: Level;
  /** Why it matters, where the check speaks of different things. */
  why?: string;
}
type Placeholders<T extends string> = T extends `${string}{{${infer P}}}${infer Rest}` ? P | Placeholders<Rest> : never;
type NameOf<P extends string> = P extends `${infer N}:${string}` ? N : P extends `${infer N}|${string}` ? N : P;
type ParamOf<P extends string> = P extends `${string}:${string}`
  ? readonly string[]
  : P extends `${string}|${string}`
    ? number
    : string | number;
type Known = 'value' | 'field' | 'market';
type Params<M extends Message> = {
  [P in Exclude<Placeholders<M['says']>, Known> as NameOf<P>]: ParamOf<P>;
};

/** Says one finding. A wrong message id or a missing parameter does not compile. */
export type Say<M extends Record<string, Message>> = <K extends keyof M & string>(
  out: Finding[],
  message: K,
  field: string,
  value: Value | undefined,
  params: Params<M[K]>,
  remedies?: Remedy[],
) => void;
/** Judges one row. */
export type RunRow = (listing: Listing, context: CheckContext, out: Finding[]) => void;
/** Judges a row only where one of these fields is empty, since most rows lack nothing; and by `always` in any case. */
export interface RunWhereEmpty {
  fields: readonly string[];
  run: RunRow;
  always: RunRow;
}
/** Judges one value of a row, never undefined, never the empty text. */
export type RunCell = (value: Value, listing: Listing, out: Finding[]) => void;
/** The same where nothing but the value counts: of a value that was good in one row nothing is said in another. */
export type RunValue = (value: Value, out: Finding[]) => void;

interface CheckFacts {
  id: string;
  level: Level;
  docs: { title: string; why: string; source: string };
}

export interface CheckDefinition extends CheckFacts {
  messages: Record<string, Message>;
  /** What runs per row in this category, or undefined where the check has nothing to say there. */
  prepareRow: (category: CompiledCategory) => RunRow | RunWhereEmpty | undefined;
  /** What runs per value of an attribute in this category. */
  prepareCells: (category: CompiledCategory) => (attribute: CompiledAttribute) => RunCell | undefined;
  prepareValues: (category: CompiledCategory) => (attribute: CompiledAttribute) => RunValue | undefined;
}

/** Gives a check its typed `say`. */
export function defineCheck<const M extends Record<string, Message>>(
  definition: CheckFacts & {
    messages: M;
    prepareRow?: (category: CompiledCategory, say: Say<M>) => RunRow | RunWhereEmpty | undefined;
    prepareCells?: (category: CompiledCategory, say: Say<M>) => (attribute: CompiledAttribute) => RunCell | undefined;
    prepareValues?: (category: CompiledCategory, say: Say<M>) => (attribute: CompiledAttribute) => RunValue | undefined;
  },
): CheckDefinition {
  const { prepareRow, prepareCells, prepareValues } = definition;
  const levelOf = (message: string): Level => definition.messages[message]!.level ?? definition.level;
  const say: Say<M> = (out, message, field, value, params, remedies = []) => {
    out.push({
      check: definition.id,
      message,
      level: levelOf(message),
      field,
      value: value === undefined ? '' : typeof value === 'string' ? value : value.join(' | '),
      params,
      remedies,
    });
  };
  return {
    ...definition,
    prepareRow: (category) => prepareRow?.(category, say),
    prepareCells: (category) => prepareCells?.(category, say) ?? (() => undefined),
    prepareValues: (category) => prepareValues?.(category, say) ?? (() => undefined),
  };
}

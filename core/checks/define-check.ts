// A check is data plus a function: id, level, reasons, messages, and what it prepares from the rulebook's category once.
// It judges either cell by cell (`prepareCells`), or a row as a whole (`prepareRow`). Cells are the quick way: a row
// holds far fewer values than a rulebook has attributes, and each value is then looked up once for all checks.
// A check knows nothing of files, databases or screens.
import type { Listing, Value } from '../listing/values';
import type { CompiledAttribute, CompiledCategory } from '../rulebook/compile';
import type { CheckContext, Finding, Level, Remedy } from './finding';

type Message = string | { level: Level; text: string };
type TextOf<M extends Message> = M extends { text: infer T extends string } ? T : M extends string ? M : never;
type Placeholders<T extends string> = T extends `${string}{{${infer P}}}${infer Rest}` ? P | Placeholders<Rest> : never;
type Params<M extends Message> = Record<
  Exclude<Placeholders<TextOf<M>>, 'value' | 'field' | 'market'>,
  string | number
>;

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
}

/** Gives a check its typed `say`. */
export function defineCheck<const M extends Record<string, Message>>(
  definition: CheckFacts & {
    messages: M;
    prepareRow?: (category: CompiledCategory, say: Say<M>) => RunRow | RunWhereEmpty | undefined;
    prepareCells?: (category: CompiledCategory, say: Say<M>) => (attribute: CompiledAttribute) => RunCell | undefined;
  },
): CheckDefinition {
  const { prepareRow, prepareCells } = definition;
  const levelOf = (message: string): Level => {
    const m = definition.messages[message]!;
    return typeof m === 'string' ? definition.level : m.level;
  };
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
  };
}

export const getMessageText = (definition: CheckDefinition, message: string): string | undefined => {
  const m = definition.messages[message];
  return m === undefined ? undefined : typeof m === 'string' ? m : m.text;
};

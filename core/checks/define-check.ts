// A check is data plus a function: id, level, reasons, messages, and `prepare`, which reads the rulebook's category once
// and returns what runs per row. A check knows nothing of files, databases or screens.
import type { Listing, Value } from '../listing/values';
import type { CompiledCategory } from '../rulebook/compile';
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
export type RunCheck = (listing: Listing, context: CheckContext, out: Finding[]) => void;

export interface CheckDefinition {
  id: string;
  level: Level;
  docs: { title: string; why: string; source: string };
  messages: Record<string, Message>;
  /** What runs per row in this category, or undefined where the check has nothing to say there. */
  prepare: (category: CompiledCategory) => RunCheck | undefined;
}

/** Gives a check its typed `say`. */
export function defineCheck<const M extends Record<string, Message>>(
  definition: Omit<CheckDefinition, 'messages' | 'prepare'> & {
    messages: M;
    prepare: (category: CompiledCategory, say: Say<M>) => RunCheck | undefined;
  },
): CheckDefinition {
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
  return { ...definition, prepare: (category) => definition.prepare(category, say) };
}

export const getMessageText = (definition: CheckDefinition, message: string): string | undefined => {
  const m = definition.messages[message];
  return m === undefined ? undefined : typeof m === 'string' ? m : m.text;
};

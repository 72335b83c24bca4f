// The format, and what a category demands, as JSON Schema (draft 2020-12), for programs that are not ours.
import { z } from 'zod';
import type { CompiledAttribute, CompiledCategory } from './compile';
import { type Condition, type Rulebook, rulebookSchema } from './schema';

export type JsonSchema = Readonly<Record<string, unknown>>;
const draft = 'https://json-schema.org/draft/2020-12/schema';

/** The form of a rulebook document. What its parts name of one another is told by reading it, not by its form. */
export const makeFormatSchema = (): JsonSchema => ({
  title: 'basileus-rulebook/2',
  ...(z.toJSONSchema(rulebookSchema, { io: 'input', unrepresentable: 'any' }) as JsonSchema),
});

/** What a filled value of an attribute looks like. Values are texts, or lists of texts, as they are kept and shown. */
function schemaOfValue({ attribute: a, codes }: CompiledAttribute): JsonSchema {
  const length = {
    ...(a.minCharacters === undefined ? {} : { minLength: a.minCharacters }),
    ...(a.maxCharacters === undefined ? {} : { maxLength: a.maxCharacters }),
  };
  // Fewer entries than a market would like are taken all the same.
  const items = a.maxItems === undefined ? {} : { maxItems: a.maxItems };
  const number = (pattern: string): JsonSchema => ({ type: 'string', pattern });
  switch (a.type) {
    case 'one-of':
      return { enum: codes?.entries.map((e) => e.code) ?? [] };
    case 'several-of':
      return { type: 'array', uniqueItems: true, ...items, items: { enum: codes?.entries.map((e) => e.code) ?? [] } };
    case 'repeated-text':
      return { type: 'array', ...items, items: { type: 'string', ...length } };
    case 'links':
      return { type: 'array', items: { type: 'string', format: 'uri' } };
    case 'yes-no':
      return { enum: ['yes', 'no'] };
    case 'integer':
      return number('^-?[0-9]+$');
    case 'decimal':
    case 'money':
      return number('^-?[0-9]+(\\.[0-9]+)?$');
    case 'measure':
      return number(`^[0-9]+(\\.[0-9]+)? (${(a.units ?? []).map(escape).join('|')})$`);
    case 'date':
      return { type: 'string', format: 'date' };
    case 'moment':
      return { type: 'string', format: 'date-time' };
    default:
      return { type: 'string', ...length, ...(a.pattern ? { pattern: a.pattern.regex } : {}) };
  }
}
const escape = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** A condition as a schema that holds where it does; undefined where it cannot be told by a schema. */
function schemaOfCondition(c: Condition): JsonSchema | undefined {
  const several = (all: readonly Condition[]): JsonSchema[] | undefined => {
    const made = all.map(schemaOfCondition);
    return made.every((m) => m !== undefined) ? made : undefined;
  };
  if ('all' in c) {
    const all = several(c.all);
    return all && { allOf: all };
  }
  if ('any' in c) {
    const any = several(c.any);
    return any && { anyOf: any };
  }
  if ('not' in c) {
    const not = schemaOfCondition(c.not);
    return not && { not };
  }
  // Of what is not in the row a schema of rows tells nothing.
  if (!('attribute' in c)) return undefined;
  if ('filled' in c) return c.filled ? { required: [c.attribute] } : { not: { required: [c.attribute] } };
  if ('is' in c)
    return {
      required: [c.attribute],
      properties: { [c.attribute]: { anyOf: [{ enum: c.is }, { type: 'array', contains: { enum: c.is } }] } },
    };
  // Numbers are kept as text, which a schema does not compare.
  return undefined;
}

/**
 * What a listing that is sold holds in a category: its fields, what must be there, and what must be there under a
 * condition. Rules that a schema cannot tell (check digits, prices against one another, families) are not in it.
 */
export function makeCategorySchema(book: Rulebook, { key, attributes }: CompiledCategory): JsonSchema {
  const used = attributes.filter((a) => a.strongest !== 'unused' && a.attribute.rows !== 'parent');
  const must: string[] = [],
    conditional: JsonSchema[] = [];
  for (const a of used) {
    const required = { required: [a.attribute.key] };
    const relaxed = a.conditions.filter((c) => c.level !== 'must');
    // Where the last condition that holds decides, what one asks another may let go: only what is certain is told.
    if (a.fixed === 'must' && relaxed.length === 0) must.push(a.attribute.key);
    else if (a.fixed === 'must') {
      const letsGo = relaxed.map((c) => schemaOfCondition(c.when));
      if (letsGo.every((l) => l !== undefined)) conditional.push({ if: { not: { anyOf: letsGo } }, then: required });
    } else if (relaxed.length === 0)
      for (const { when } of a.conditions) {
        const holds = schemaOfCondition(when);
        if (holds) conditional.push({ if: holds, then: required });
      }
  }
  return {
    $schema: draft,
    title: `${book.market.name}: ${book.tree.find((n) => n.key === key)?.label ?? key}`,
    type: 'object',
    properties: Object.fromEntries(
      used.map((a) => [a.attribute.key, { title: a.attribute.label, ...schemaOfValue(a) }]),
    ),
    required: must,
    ...(conditional.length > 0 ? { allOf: conditional } : {}),
  };
}

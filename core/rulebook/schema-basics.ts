// What the parts of the rulebook format share: keys, labels, amounts, paths, conditions, demands.
import { RE2JS } from 're2js';
import { z } from 'zod';
import { isPath } from '../forms/containers/path';
import { demandLevels, entryStates, operations } from './terms';

export const key = z
  .string()
  .regex(
    /^[a-z][a-z0-9_]*(\.[a-z0-9_]+)*$/,
    'A key is lower-case letters, digits and underscores, starting with a letter.',
  )
  // Rows are plain objects, which have a constructor from birth.
  .refine((k) => !(k in {}), 'A key may not be “constructor”.');
/** A code as the market writes it, whatever its letters: `310204`, `HC-PAN`. */
export const code = z.string().min(1).max(100);
export const label = z.string().min(1);
/** A language by its two letters (ISO 639-1). */
export const language = z.string().regex(/^[a-z]{2}$/, 'A language is two small letters, such as de.');
/** The same label in other languages of the market. */
export const labels = z.record(language, label).optional();
export const amount = z.string().regex(/^\d+(\.\d+)?$/, 'An amount is written as text with a point, such as "12.50".');

/** A path under the address that the person entered, which it can never leave; what stands in braces is filled in. */
export const path = z
  .string()
  .regex(
    /^\/(?!\/)(?!.*\.\.)[A-Za-z0-9._~/{}-]*(\?[A-Za-z0-9._~{}=&-]*)?$/,
    'A path begins with one slash and holds letters, digits and . _ ~ - {} only, such as /inbox/{ticket}.',
  );

/** A path in a nested record, such as say.name, say.points[] or notes[].id. */
export const nestedPath = z
  .string()
  .max(200)
  .refine(
    isPath,
    'A path is names divided by points, with [] behind what there are several of: notes[].id, fault[].@at.',
  );

/** A regular expression of RE2, which never runs away. */
export const regex = z
  .string()
  .max(500)
  .refine((r) => {
    try {
      RE2JS.compile(r);
      return true;
    } catch {
      return false;
    }
  }, 'This regular expression is not one that RE2 takes, the engine that never runs away; look-around and back references are none of it.');
export const pattern = z.strictObject({ regex, says: z.string().min(1) });

/** A condition on what an item is and where it goes, whatever its row holds. */
export type Circumstance =
  /** How it stands in its family. */
  | { role: ('single' | 'parent' | 'variant')[] }
  /** Whether it makes an entry of its own, or joins one that the market has. */
  | { mode: 'entry' | 'offer' }
  /** Sites by key, or countries by ISO 3166 code, of which one is where it goes; `EU` is the European Union. */
  | { site: string[] }
  | { destination: string[] };
/** A condition on other attributes of the same row, or on where that goes. */
export type Condition =
  | { attribute: string; is: string[] }
  | { attribute: string; filled: boolean }
  | { attribute: string; over: string }
  | Circumstance
  | { all: Condition[] }
  | { any: Condition[] }
  | { not: Condition };

export const condition: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    z.strictObject({ attribute: key, is: z.array(z.string()).min(1) }),
    z.strictObject({ attribute: key, filled: z.boolean() }),
    z.strictObject({ attribute: key, over: amount }),
    z.strictObject({ role: z.array(z.enum(['single', 'parent', 'variant'])).min(1) }),
    z.strictObject({ mode: z.enum(['entry', 'offer']) }),
    z.strictObject({ site: z.array(z.string()).min(1) }),
    z.strictObject({
      destination: z.array(z.string().regex(/^[A-Z]{2}$/, 'A country is two capitals, such as DE.')).min(1),
    }),
    z.strictObject({ all: z.array(condition).min(1) }),
    z.strictObject({ any: z.array(condition).min(1) }),
    z.strictObject({ not: condition }),
  ]),
);

export const demand = z.strictObject({
  attribute: key,
  level: z.enum(demandLevels),
  when: condition.optional(),
  why: z.string().optional(),
});

/** Encodings of files, by their names in the WHATWG Encoding Standard; `utf-8-mark` begins with a byte order mark. */
export const encodings = ['utf-8', 'utf-8-mark', 'windows-1252', 'shift_jis', 'utf-16le'] as const;

export const operation = z.enum(operations);
export const entryState = z.enum(entryStates);

import { hasColumns, notXml } from '../../forms/containers';
import { encodingNames, findUnencodable, toEncodable, type Written } from '../../forms/encoding';
import type { Value } from '../../listing/values';
import type { CompiledCategory } from '../../rulebook/compile';
import { createFormChoice } from '../../rulebook/form-choice';
import { operations } from '../../rulebook/terms';
import { defineCheck } from '../define-check';
import type { Finding, Remedy } from '../finding';

/** What writing an attribute into the market's files asks of its values. */
interface FileDemands {
  /** Signs that divide the items of a list that is written into one cell. */
  separators: Set<string>;
  encodings: Set<Written>;
  /** Words that empty a field where they stand alone in its cell. */
  clearTokens: Set<string>;
}

const isList = (type: string): boolean => type === 'several-of' || type === 'repeated-text' || type === 'links';

/** What a file cannot carry does not arrive as it was meant, or stops the file. */
export const fileForm = defineCheck({
  id: 'file-form',
  level: 'blocker',
  docs: {
    title: 'Values can be written into the market’s files',
    why: 'The market would read something else than what was meant.',
    source: 'forms from the rulebook; WHATWG Encoding Standard for what an encoding holds',
  },
  messages: {
    separator: {
      title: '{{field}} holds the sign that divides entries',
      says: '{{field}} says “{{value}}”; in files of {{market}} the sign {{sign}} divides entries, so this would arrive as {{count|entry|entries}}.',
    },
    notEncodable: {
      title: '{{field}} holds characters that the file cannot',
      says: '{{field}} holds “{{found}}”, which {{encoding}}, the encoding of files for {{market}}, cannot hold; write it another way.',
    },
    clears: {
      title: '{{field}} says the word that empties a field',
      says: '{{field}} is “{{value}}”, which empties the field in files of {{market}}; write it another way.',
    },
  },
  prepareValues(category, say) {
    const demands = collectDemands(category);
    return ({ attribute, strongest }) => {
      const { key } = attribute;
      const demand = demands.get(key);
      if (strongest === 'unused' || !demand) return undefined;
      const separators = isList(attribute.type) ? [...demand.separators] : [],
        encodings = [...demand.encodings].filter((e) => !e.startsWith('utf-')),
        { clearTokens } = demand,
        longestToken = Math.max(0, ...[...clearTokens].map((t) => t.length));
      if (separators.length + encodings.length + clearTokens.size === 0) return undefined;
      const judge = (text: string, put: (mended: string) => Value, out: Finding[]): void => {
        for (const sign of separators)
          if (text.includes(sign))
            say(out, 'separator', key, text, { sign, count: text.split(sign).length }, [
              { kind: 'set', field: key, value: put(replaceSign(text, sign)), safe: false },
            ]);
        for (const encoding of encodings) {
          const found = findUnencodable(text, encoding);
          if (found !== undefined)
            say(
              out,
              'notEncodable',
              key,
              text,
              { found, encoding: encoding === 'XML' ? encoding : encodingNames[encoding] },
              toWritable(key, text, encoding, put),
            );
        }
        if (text.length <= longestToken && clearTokens.has(text))
          say(out, 'clears', key, text, {}, [{ kind: 'fill', field: key }]);
      };
      return (value, out) => {
        if (typeof value === 'string') judge(value, (mended) => mended, out);
        else
          for (const item of value)
            judge(item, (mended) => value.map((other) => (other === item ? mended : other)), out);
      };
    };
  },
});

function collectDemands({ key: category, rulebook: book }: CompiledCategory): ReadonlyMap<string, FileDemands> {
  const demands = new Map<string, FileDemands>();
  const forms = new Set(operations.flatMap((operation) => createFormChoice(book, operation)(category) ?? []));
  for (const form of forms) {
    const { container, text, clear } = form;
    for (const { key: slot, holds } of [...form.slots, ...(form.members?.slots ?? [])]) {
      if (!('attribute' in holds)) continue;
      // An attribute at the record's site is any of its fields.
      const keys = holds.attribute.endsWith('@') ? book.sites.map((s) => holds.attribute + s.key) : [holds.attribute];
      for (const key of keys) {
        const known: FileDemands = demands.get(key) ?? {
          separators: new Set(),
          encodings: new Set(),
          clearTokens: new Set(),
        };
        demands.set(key, known);
        known.encodings.add(container.kind === 'xml' || container.kind === 'workbook' ? 'XML' : container.encoding);
        // A container with lists of its own divides nothing by a sign.
        const isJoined = hasColumns(container) || !slot.endsWith('[]');
        if (holds.what === 'value' && isJoined) known.separators.add(text.listSeparator);
        if (typeof clear === 'string' && clear !== '' && holds.what !== 'identifier-kind') known.clearTokens.add(clear);
      }
    }
  }
  return demands;
}

/** “Two|fold handle” as “Two, fold handle”; a comma divides nothing for a reader that a bar did not. */
const replaceSign = (text: string, sign: string): string =>
  text
    .split(sign)
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .join(sign === ',' ? '; ' : ', ');

const allNotXml = new RegExp(notXml.source, 'gu');

/** The text in the characters of the encoding, where composing or taking the width off is all it needs. */
function toWritable(field: string, text: string, encoding: Written, put: (mended: string) => Value): Remedy[] {
  // XML lacks nothing that can be seen: what it cannot hold is left out.
  const mended = encoding === 'XML' ? text.replace(allNotXml, '') : toEncodable(text, encoding);
  return findUnencodable(mended, encoding) === undefined
    ? [{ kind: 'set', field, value: put(mended), safe: false }]
    : [{ kind: 'fill', field }];
}

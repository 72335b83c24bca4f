// Sheets of XML as sellers put them there, read by fast-xml-parser, and what the market writes itself.
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import type { Cells } from './book';

interface Node {
  [name: string]: unknown;
}
const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: false,
  processEntities: true,
});
const attributesOf = (node: Node): Record<string, string> => (node[':@'] as Record<string, string> | undefined) ?? {};
const tagOf = (node: Node): string => Object.keys(node).find((k) => k !== ':@') ?? '';
const childrenOf = (node: Node): Node[] => {
  const inner = node[tagOf(node)];
  return Array.isArray(inner) ? (inner as Node[]) : [];
};
const textOf = (node: Node): string =>
  childrenOf(node)
    .filter((c) => '#text' in c)
    .map((c) => String(c['#text']))
    .join('');

/** Attributes that tell elements of one name apart. */
const telling = ['tongue', 'name'];

function flatten(node: Node, path: string, many: ReadonlySet<string>, into: Cells): void {
  for (const [name, value] of Object.entries(attributesOf(node)))
    if (path === '' || !telling.includes(name)) into[path === '' ? `@${name}` : `${path}.@${name}`] = value;
  for (const child of childrenOf(node)) {
    const tag = tagOf(child);
    if (tag === '#text') continue;
    const told = Object.entries(attributesOf(child)).find(([k]) => telling.includes(k));
    const at = `${path === '' ? '' : `${path}.`}${tag}${told ? `[${told[0]}=${told[1]}]` : ''}`;
    const text = textOf(child);
    if (many.has(`${at}[]`)) into[`${at}[]`] = [...((into[`${at}[]`] as string[] | undefined) ?? []), text];
    else {
      if (text.trim() !== '') into[at] = text;
      flatten(child, at, many, into);
    }
  }
}

/** Entries of a sheet; undefined where it is none. `many` are the places that hold several. */
export function readSheet(text: string, many: ReadonlySet<string>): Cells[] | undefined {
  if (XMLValidator.validate(text) !== true || text.includes('<!DOCTYPE')) return undefined;
  const root = (parser.parse(text) as Node[]).find((n) => tagOf(n) === 'sheet');
  if (!root) return undefined;
  return childrenOf(root)
    .filter((n) => tagOf(n) === 'entry')
    .map((entry) => {
      const cells: Cells = {};
      flatten(entry, '', many, cells);
      return cells;
    });
}

/** A text as it stands in XML. */
export const escape = (text: string): string =>
  text.replace(
    /[&<>"\r\n\t]/g,
    (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? `&#${c.charCodeAt(0)};`,
  );

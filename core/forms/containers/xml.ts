// Records as elements of XML 1.0 under one root. Written with all that could be read otherwise escaped; read by saxes, which
// knows no document types and refuses entities that XML does not have itself. Source: W3C XML 1.0, fifth edition.
import { SaxesParser } from 'saxes';
import type { Container, Form } from '../../rulebook/schema';
import { createPlainReader, type LastTold } from '../../text/plain-xml';
import type { Cell, Make, RecordsReading, RecordWriter } from './cell';
import { parsePath, type Step } from './path';
import { deepest, prepareRecord, type XmlNode } from './plain-record';

type Xml = Extract<Container, { kind: 'xml' }>;
type Slot = Form['slots'][number];

/** Characters that no document of XML can hold, however they are written (2.2, production 2). */
export const notXml = /[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/u;

const escapes: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  // A reader makes one line end of these (2.11), and a space of white space in attributes (3.3.3).
  '\r': '&#13;',
  '\n': '&#10;',
  '\t': '&#9;',
};
const special = /[&<>\r]/,
  specials = /[&<>\r]/g,
  specialsInAttribute = /[&<>"\r\n\t]/g;
const escapeText = (text: string): string => (special.test(text) ? text.replace(specials, (c) => escapes[c]!) : text);
const escapeAttribute = (text: string): string => text.replace(specialsInAttribute, (c) => escapes[c]!);

interface Element {
  name: string;
  /** ` name="colour"` where it is told by that. */
  told: string;
  isMany: boolean;
  attributes: { head: string; slot: number }[];
  text: number | undefined;
  children: Element[];
}
const newElement = ({ name, told, isMany }: Step): Element => ({
  name,
  told: told ? ` ${told.by}="${escapeAttribute(told.as)}"` : '',
  isMany,
  attributes: [],
  text: undefined,
  children: [],
});

/** The elements that slots stand in. */
function growElements(record: string, slots: readonly Slot[]): Element {
  const root = newElement({ name: record, isMany: false });
  for (const [i, { key }] of slots.entries()) {
    let at = root;
    for (const step of parsePath(key)) {
      if (step.isAttribute) {
        at.attributes.push({ head: ` ${step.name}="`, slot: i });
        break;
      }
      const made = newElement(step);
      const known = at.children.find((c) => c.name === made.name && c.told === made.told);
      if (!known) at.children.push(made);
      at = known ?? made;
    }
    if (!key.includes('@')) at.text = i;
  }
  return root;
}

function writeElement(e: Element, cellAt: (slot: number) => Cell, isRecord: boolean): string {
  let attributes = '';
  for (const { head, slot } of e.attributes) {
    const cell = cellAt(slot);
    if (typeof cell === 'string' && cell !== '') attributes += `${head}${escapeAttribute(cell)}"`;
  }
  const open = `<${e.name}${e.told}${attributes}>`,
    close = `</${e.name}>`;
  if (e.text !== undefined) {
    const cell = cellAt(e.text);
    if (cell === null || cell.length === 0) return attributes === '' ? '' : `<${e.name}${e.told}${attributes}/>`;
    if (typeof cell === 'string') return open + escapeText(cell) + close;
    return cell.map((entry) => open + escapeText(entry) + close).join('');
  }
  let inner = '';
  for (const child of e.children) inner += writeElement(child, cellAt, false);
  if (inner === '' && attributes === '' && !isRecord) return '';
  return inner === '' ? `<${e.name}${e.told}${attributes}/>` : open + inner + close;
}

/** Writer of one element a record. */
export function createXmlWriter(container: Xml, slots: readonly Slot[]): RecordWriter {
  const record = growElements(container.record, slots);
  return {
    header: () => `<?xml version="1.0" encoding="UTF-8"?>\n<${container.root}>\n`,
    record: (cellAt) => `${writeElement(record, cellAt, true)}\n`,
    footer: () => `</${container.root}>\n`,
  };
}

const attributeOf = (node: XmlNode, name: string): string | undefined =>
  Object.hasOwn(node.attributes, name) ? node.attributes[name] : undefined;

/** What stands at a path under a node: entries where a step has several, of which each says something or ''. */
function readAt(node: XmlNode | undefined, steps: readonly Step[], from = 0): string | string[] {
  const step = steps[from];
  if (step === undefined) return node?.text ?? '';
  if (step.isAttribute) return (node && attributeOf(node, step.name)) ?? '';
  const isMeant = (c: XmlNode): boolean =>
    c.name === step.name && (!step.told || attributeOf(c, step.told.by) === step.told.as);
  if (!step.isMany) return readAt(node?.children.find(isMeant), steps, from + 1);
  return (node?.children ?? []).filter(isMeant).flatMap((c) => readAt(c, steps, from + 1));
}

/** Elements on the way to the columns, those that several share once; where there may be several of one, it is read path by path. */
interface Fork {
  told: Step['told'];
  /** Places of columns among those that were asked for. */
  columns: number[];
  attributes: { at: number; name: string }[];
  several: { at: number; rest: readonly Step[] }[];
  byName: Map<string, Fork[]>;
  /** The element in which it was found last: the first of its kind counts. */
  foundIn: XmlNode | undefined;
}
const startFork = (told: Step['told']): Fork => ({
  told,
  columns: [],
  attributes: [],
  several: [],
  byName: new Map(),
  foundIn: undefined,
});

function growForks(columns: readonly string[]): Fork {
  const root = startFork(undefined);
  for (const [at, column] of columns.entries()) {
    const steps = parsePath(column);
    let fork = root;
    const last = steps.findIndex(({ name, told, isMany, isAttribute }, k) => {
      if (isAttribute) fork.attributes.push({ at, name });
      else if (isMany) fork.several.push({ at, rest: steps.slice(k) });
      else {
        const beside = fork.byName.get(name) ?? [];
        let next = beside.find((f) => f.told?.by === told?.by && f.told?.as === told?.as);
        if (!next) fork.byName.set(name, [...beside, (next = startFork(told))]);
        fork = next;
        return false;
      }
      return true;
    });
    if (last < 0) fork.columns.push(at);
  }
  return root;
}

function takeCells(node: XmlNode, fork: Fork, cells: Cell[]): void {
  for (const { at, name } of fork.attributes) {
    const cell = attributeOf(node, name);
    if (cell) cells[at] = cell;
  }
  if (node.text !== '') for (const at of fork.columns) cells[at] = node.text;
  for (const { at, rest } of fork.several) {
    const cell = readAt(node, rest);
    if (cell.length > 0) cells[at] = cell;
  }
  if (fork.byName.size === 0) return;
  for (const child of node.children)
    for (const next of fork.byName.get(child.name) ?? nothing) {
      if (next.foundIn === node || (next.told && attributeOf(child, next.told.by) !== next.told.as)) continue;
      next.foundIn = node;
      takeCells(child, next, cells);
    }
}
const nothing: readonly Fork[] = [];

/** Records of a document of XML. */
export function readXml<T>(
  { root, record }: Xml,
  columns: readonly string[],
  text: string,
  make: Make<T>,
): RecordsReading<T> {
  const forks = growForks(columns);
  const cells = columns.map((): Cell => '');
  const toCells = (node: XmlNode): readonly Cell[] => {
    cells.fill('');
    takeCells(node, forks, cells);
    return cells;
  };
  const records: T[] = [];
  const open: XmlNode[] = [],
    last: LastTold = { closed: '' };
  let top: XmlNode | undefined, reason: string | undefined;
  const parser = new SaxesParser({ xmlns: false });
  const refuse = (why: string): void => {
    reason ??= why;
  };
  parser.on('error', ({ message }) => {
    refuse(`This is no XML that can be read: ${message}`);
  });
  parser.on('doctype', () => {
    refuse('A document type is declared in it, which no answer needs.');
  });
  parser.on('opentag', ({ name, attributes }) => {
    last.closed = '';
    const node: XmlNode = { name, attributes: attributes as Record<string, string>, children: [], text: '' };
    if (open.length === 0 && name !== root) refuse(`It begins with <${name.slice(0, 60)}>, not with <${root}>.`);
    if (open.length >= deepest) refuse('Its elements stand one within the other too deep.');
    if (open.length > 1) open.at(-1)!.children.push(node);
    top ??= node;
    open.push(node);
  });
  parser.on('text', (piece) => {
    const node = open.at(-1);
    if (node && open.length > 1) node.text += piece;
  });
  parser.on('cdata', (piece) => {
    const node = open.at(-1);
    if (node && open.length > 1) node.text += piece;
  });
  parser.on('closetag', () => {
    const node = open.pop();
    last.closed = open.length === 1 ? (node?.name ?? '') : '';
    // What stands beside the records, directly under the root, is not kept.
    if (node && open.length === 1 && node.name === record && reason === undefined) records.push(make(toCells(node)));
  });
  const take = createPlainReader(
    record,
    prepareRecord(record, (node) => {
      if (reason === undefined) records.push(make(toCells(node)));
    }),
    (piece, isLast) => {
      parser.write(piece);
      if (isLast) parser.close();
    },
    last,
  );
  try {
    take(text, true);
  } catch (error) {
    refuse(`This is no XML that can be read: ${(error as Error).message}`);
  }
  if (reason !== undefined) return { ok: false, reason: reason.slice(0, 300) };
  return {
    ok: true,
    before: [],
    records,
    over: 0,
    beside: (path) => {
      const cell = readAt(top, parsePath(path));
      return typeof cell === 'string' && cell !== '' ? cell : undefined;
    },
  };
}

// A record of a document of XML as an element with its own, read without a parser where it is written in the plain way.
import { isPlain, readEntities } from '../../text/plain-xml';

export interface XmlNode {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: XmlNode[];
  text: string;
}
/** Elements one within the other that are read at the most: far over what any form has. */
export const deepest = 32;

const space = /[ \t\n]*/y;
const tag = /<(?:\/([A-Za-z_][\w.-]*)|([A-Za-z_][\w.-]*)((?: [A-Za-z_][\w.-]*="[^"<\t\n]*")*)(\/?))>/y;
const none: XmlNode['attributes'] = {};

/** Attributes by their names; undefined where one is there twice, or has a name that every object answers to. */
function readAttributes(text: string): XmlNode['attributes'] | undefined {
  if (text === '') return none;
  const found: Record<string, string> = {};
  // Attributes stand one behind the other, as the tag has shown.
  for (let at = 1; at < text.length;) {
    const to = text.indexOf('=', at),
      end = text.indexOf('"', to + 2);
    const name = text.slice(at, to);
    if (name in found) return undefined;
    found[name] = readEntities(text.slice(to + 2, end));
    at = end + 2;
  }
  return found;
}

/**
 * Reads one record under `root`, see `createPlainReader`, and hands it on. A record that holds an element of its own name ends
 * elsewhere than at the first end tag, and is left to the parser.
 */
export function prepareRecord(record: string, take: (node: XmlNode) => void) {
  const open: XmlNode[] = [];
  return (text: string, at: number, end: number): number => {
    space.lastIndex = at;
    space.test(text);
    const begin = space.lastIndex,
      after = end + record.length + 3;
    if (end < 0 || !text.startsWith(`<${record}`, begin) || !isPlain(text.slice(begin, end))) return -1;
    open.length = 0;
    let next = begin;
    while (next < after) {
      tag.lastIndex = next;
      const found = tag.exec(text);
      if (!found) return -1;
      next = tag.lastIndex;
      const [, ended, name, said, alone] = found;
      const top = open.at(-1);
      if (ended !== undefined) {
        if (top?.name !== ended) return -1;
        open.pop();
        if (open.length > 0) {
          next = readText(text, next, open.at(-1)!);
          continue;
        }
        if (next !== after) return -1;
        take(top);
        return next;
      }
      const attributes = readAttributes(said!);
      // The root is one more over it.
      if (attributes === undefined || open.length + 1 >= deepest) return -1;
      const node: XmlNode = { name: name!, attributes, children: [], text: '' };
      if (top) top.children.push(node);
      else if (name !== record || alone !== '') return -1;
      if (alone === '') open.push(node);
      next = readText(text, next, open.at(-1)!);
    }
    return -1;
  };
}

/** Takes what stands before the next tag into an element; where that begins. */
function readText(text: string, at: number, node: XmlNode): number {
  const to = text.indexOf('<', at);
  if (to > at) node.text += readEntities(text.slice(at, to));
  return to;
}

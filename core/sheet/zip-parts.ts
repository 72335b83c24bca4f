// The parts of a zip handed on as they come: inflated piece by piece, decoded by a streaming TextDecoder (so that no
// character breaks on a chunk edge), parsed by a SAX parser that expands no entities of a file's own.
import { Unzip, UnzipInflate } from 'fflate';
import { SaxesParser } from 'saxes';
import type { LastTold } from '../text/plain-xml';
import { SheetError, sheetBounds } from './bounds';

/** Inflated bytes that a workbook may hold per byte of file: a zip that pretends is refused, not unpacked. */
const mostRatio = 150;
/** Bytes given to the inflater at once. A thousand times as many may come out, so that little is given. */
const slice = 16_384;

/** A chunk in pieces that are given to the inflater at once. */
export function* cut(chunk: Uint8Array): Generator<Uint8Array> {
  for (let i = 0; i < chunk.length; i += slice) yield chunk.subarray(i, i + slice);
}

/** What takes the text of a part, or nothing where the part is not wanted. */
export type PartTaker = (name: string) => ((text: string, isLast: boolean) => void) | undefined;
export type Attributes = Record<string, string>;
/** A parser of one part, told of elements by their local names. */
export function createSax(
  on: {
    open?: (name: string, a: Attributes, parents: readonly string[]) => void;
    text?: (t: string) => void;
    close?: (name: string) => void;
  },
  last: LastTold = { closed: '' },
): (text: string, isLast: boolean) => void {
  const parser = new SaxesParser({ xmlns: false });
  const stack: string[] = [];
  const local = (n: string) => n.slice(n.indexOf(':') + 1);
  parser.on('error', (e) => {
    throw e;
  });
  parser.on('opentag', (tag) => {
    last.closed = '';
    on.open?.(local(tag.name), tag.attributes as Attributes, stack);
    stack.push(local(tag.name));
  });
  parser.on('text', (t) => on.text?.(t));
  parser.on('closetag', (tag) => {
    stack.pop();
    last.closed = local(tag.name);
    on.close?.(last.closed);
  });
  return (text, isLast) => {
    parser.write(text);
    if (isLast) parser.close();
  };
}

/** Takes a zip's bytes as they come and hands each wanted part on as decoded text. */
export function createFeed(want: PartTaker): (chunk: Uint8Array | undefined) => void {
  let failure: SheetError | undefined,
    read = 0,
    inflated = 0;
  const damaged = () =>
    new SheetError(
      'damaged',
      'The workbook is damaged.',
      'Open it in a spreadsheet program and save it as .xlsx anew.',
    );
  const unzip = new Unzip((file) => {
    const take = want(file.name);
    if (!take) return;
    const decoder = new TextDecoder('utf-8');
    file.ondata = (error, chunk, isLast) => {
      if (failure) return;
      if (error) {
        failure = damaged();
        return;
      }
      inflated += chunk.length;
      if (inflated > sheetBounds.inflatedBytes || (inflated > 4_000_000 && inflated > read * mostRatio)) {
        failure = new SheetError(
          'too-large-inside',
          'The workbook unpacks to far more than its size; it is not read.',
          'Save it anew in a spreadsheet program, with only the sheet that is needed.',
        );
        return;
      }
      try {
        take(decoder.decode(chunk, { stream: !isLast }), isLast);
      } catch (e) {
        failure = e instanceof SheetError ? e : damaged();
      }
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  return (chunk) => {
    if (chunk) read += chunk.length;
    try {
      unzip.push(chunk ?? new Uint8Array(0), chunk === undefined);
    } catch {
      failure ??= damaged();
    }
    if (failure) throw failure;
  };
}

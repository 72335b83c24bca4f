// A feed file’s text as the bytes that its form asks for.
import { encodingNames } from '@basileus/core/forms';
import type { Container, Encoding } from '@basileus/core/rulebook';
import { createWorkbookPacker } from '@basileus/core/sheet';
import { deflatePiece } from '../files';
import iconv from 'iconv-lite';
import { AppError } from '../http';
import { say } from '@basileus/core/text';

export interface FeedEncoder {
  /** Byte order mark, where the form has one; empty otherwise. */
  mark: Uint8Array;
  /** Bytes of a piece of text. A character that the encoding cannot hold is refused, never written as a question mark. */
  encode: (text: string) => Uint8Array;
  /** What is left once all text is in. */
  end: () => Uint8Array;
}

const nothing = new Uint8Array();

/** Bytes of a container: text in its encoding, or a workbook packed around its sheet. */
export function createFeedEncoder(container: Container): FeedEncoder {
  if (container.kind !== 'workbook') return { ...createTextEncoder(container.encoding), end: () => nothing };
  const { push, end } = createWorkbookPacker(container.sheet, {}, deflatePiece);
  return { mark: nothing, encode: push, end };
}

/** The same for a form that is written into a template of the market: filled once all rows are in. */
export function createTemplateEncoder(fill: (sheetText: string) => Uint8Array): FeedEncoder {
  let text = '';
  return {
    mark: nothing,
    encode: (piece) => {
      text += piece;
      return nothing;
    },
    end: () => fill(text),
  };
}

/** How many bytes a piece of text takes; in a workbook before it is packed, which only makes it smaller. */
export function createByteCounter(container: Container): (text: string) => number {
  if (container.kind === 'workbook') return (text) => Buffer.byteLength(text);
  const { encode } = createTextEncoder(container.encoding);
  return (text) => encode(text).length;
}

function createTextEncoder(encoding: Encoding): Omit<FeedEncoder, 'end'> {
  switch (encoding) {
    case 'utf-8':
    case 'utf-8-mark':
      return {
        mark: Buffer.from(encoding === 'utf-8' ? '' : '\ufeff', 'utf8'),
        encode: (text) => Buffer.from(text, 'utf8'),
      };
    case 'utf-16le':
      return { mark: Buffer.from([0xff, 0xfe]), encode: (text) => Buffer.from(text, 'utf16le') };
    case 'windows-1252':
    case 'shift_jis':
      return { mark: new Uint8Array(), encode: (text) => encodeNarrow(text, encoding) };
  }
}

function encodeNarrow(text: string, encoding: Encoding): Uint8Array {
  const bytes = iconv.encode(text, encoding);
  const back = iconv.decode(bytes, encoding);
  if (back === text) return bytes;
  const at = [...back].findIndex((c, i) => c !== [...text][i]);
  const lost = [...text][at] ?? '';
  const line = text.split(/\r?\n/).find((l) => l.includes(lost)) ?? '';
  throw new AppError(
    'bad-input',
    say`The row of ${line.split(/[\t;,|]/, 1)[0] ?? ''} holds “${lost}”, which ${encodingNames[encoding]}, the encoding of this file, cannot hold.`,
    { remedy: say`Write it with another character, then send again.` },
  );
}

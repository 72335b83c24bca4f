// A feed file’s text as the bytes that its form asks for.
import { encodingNames } from '@basileus/core/forms';
import type { Encoding } from '@basileus/core/rulebook';
import iconv from 'iconv-lite';
import { AppError } from '../http';

export interface FeedEncoder {
  /** Byte order mark, where the form has one; empty otherwise. */
  mark: Uint8Array;
  /** Bytes of a piece of text. A character that the encoding cannot hold is refused, never written as a question mark. */
  encode: (text: string) => Uint8Array;
}

export function createFeedEncoder(encoding: Encoding): FeedEncoder {
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
    `The row of ${line.split(/[\t;,|]/, 1)[0]} holds “${lost}”, which ${encodingNames[encoding]}, the encoding of this file, cannot hold.`,
    { remedy: 'Write it with another character, then send again.' },
  );
}

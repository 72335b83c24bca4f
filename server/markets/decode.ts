// Bytes of what a market answers as text: in the encoding that it says, else in the one that its rulebook names; or the sheet
// of a workbook.
import type { Decoding } from '@basileus/core/answers';
import { readWorkbookText } from '@basileus/core/forms';
import { SheetError } from '@basileus/core/sheet';
import { AppError } from '../http';

/** The text of bytes; `charset` is what the market says of them, where it says something that is known. */
export async function decodeText(bytes: Uint8Array, decoding: Decoding, charset?: string): Promise<string> {
  if (typeof decoding === 'object') return readSheet(bytes, decoding.sheet);
  return (openDecoder(charset) ?? new TextDecoder(decoding === 'utf-8-mark' ? 'utf-8' : decoding)).decode(bytes);
}

async function readSheet(bytes: Uint8Array, sheet: string): Promise<string> {
  try {
    return await readWorkbookText(async function* () {
      yield await Promise.resolve(bytes);
    }, sheet);
  } catch (error) {
    if (!(error instanceof SheetError)) throw error;
    throw new AppError('bad-input', error.message, error.remedy === undefined ? {} : { remedy: error.remedy });
  }
}

function openDecoder(label: string | undefined): InstanceType<typeof TextDecoder> | undefined {
  if (label === undefined) return undefined;
  try {
    return new TextDecoder(label);
  } catch {
    // A name that nobody knows says nothing.
    return undefined;
  }
}

/** The charset of a Content-Type header (RFC 9110, 8.3.2); undefined where it names none. */
export const readCharset = (contentType: string | null): string | undefined =>
  /;\s*charset="?([^\s;"]+)"?/i.exec(contentType ?? '')?.[1];

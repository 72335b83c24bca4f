// Bytes of what a market answers as text, in the encoding that it says, else in the one that its rulebook names.
import type { Encoding } from '@basileus/core/rulebook';

/** The text of bytes; `charset` is what the market says of them, where it says something that is known. */
export function decodeText(bytes: Uint8Array, encoding: Encoding, charset?: string): string {
  return (openDecoder(charset) ?? new TextDecoder(encoding === 'utf-8-mark' ? 'utf-8' : encoding)).decode(bytes);
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

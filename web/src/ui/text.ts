import type { Value } from '@basileus/core/listing';
import { localeNow } from '@basileus/core/text';

export { digits as count, forms, plural, say, wordFor } from '@basileus/core/text';
/** A day and a time; the year too where it is another than this one. */
export function when(iso: string, now = new Date()): string {
  const at = new Date(iso);
  return at.toLocaleString(localeNow(), {
    ...(at.getFullYear() === now.getFullYear() ? {} : { year: 'numeric' }),
    ...{ day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' },
  });
}
export const shown = (v: Value | null | undefined): string =>
  v === null || v === undefined ? '' : typeof v === 'string' ? v : v.join(' | ');
export const sizeOf = (bytes: number): string =>
  bytes > 1_000_000 ? `${(bytes / 1_000_000).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1000))} kB`;

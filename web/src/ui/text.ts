import type { Value } from '@basileus/core/listing';
import { localeNow } from '@basileus/core/text';

export { digits as count, forms, plural, say, wordFor } from '@basileus/core/text';
export const when = (iso: string): string =>
  new Date(iso).toLocaleString(localeNow(), { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
export const shown = (v: Value | null | undefined): string =>
  v === null || v === undefined ? '' : typeof v === 'string' ? v : v.join(' | ');
export const sizeOf = (bytes: number): string =>
  bytes > 1_000_000 ? `${(bytes / 1_000_000).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1000))} kB`;

import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

/** One clear sentence, then the end. */
export function fail(sentence) {
  console.error(sentence);
  process.exit(1);
}

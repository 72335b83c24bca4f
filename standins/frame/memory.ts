// A market's memory: kept in one file, written whole and swapped in, so that a killed market wakes up as it was.
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** The memory kept in a file, or `empty` where there is none yet; forgotten with the process where no file is named. */
export function openMemory<T>(file: string | undefined, empty: () => T): { memory: T; save: () => void } {
  const memory = file && existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as T) : empty();
  return {
    memory,
    save: () => {
      if (!file) return;
      mkdirSync(dirname(file), { recursive: true });
      writeFileSync(`${file}.new`, JSON.stringify(memory));
      renameSync(`${file}.new`, file);
    },
  };
}

// Files of languages: one a language, `sv.json`, read anew when it has changed.
import { readdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { type Tongue, tongueSchema } from '@basileus/core/text';
import { z } from 'zod';

export type TongueReading = { ok: true; tongue: Tongue } | { ok: false; reason: string };

export interface Languages {
  /** Tags of the languages that have a file, in their order. */
  list: () => Promise<string[]>;
  /** Undefined where there is no such file. */
  read: (language: string) => Promise<TongueReading | undefined>;
}

const ending = '.json';
/** A tag of a language (BCP 47); what is none never becomes a path. */
const tag = /^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$/;

function readTongue(text: string, language: string): TongueReading {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch (error) {
    return { ok: false, reason: `It is no JSON: ${(error as Error).message}` };
  }
  const read = tongueSchema.safeParse(document);
  if (!read.success) return { ok: false, reason: z.prettifyError(read.error).split('\n').slice(0, 2).join(' ') };
  return read.data.language === language
    ? { ok: true, tongue: read.data }
    : { ok: false, reason: `It says that it is ${read.data.language}; name it ${read.data.language}${ending}.` };
}

/** The languages of a folder; none where there is no such folder. */
export function openLanguages(folder: string | undefined): Languages {
  const kept = new Map<string, { changed: number; reading: TongueReading }>();
  return {
    list: async () =>
      folder === undefined
        ? []
        : (await readdir(folder).catch(() => []))
            .filter((f) => f.endsWith(ending) && tag.test(f.slice(0, -ending.length)))
            .map((f) => f.slice(0, -ending.length))
            .sort(),
    read: async (language) => {
      if (folder === undefined || !tag.test(language)) return undefined;
      const path = join(folder, language + ending);
      const changed = await stat(path).then(
        (s) => s.mtimeMs,
        () => undefined,
      );
      if (changed === undefined) return undefined;
      const known = kept.get(language);
      if (known?.changed === changed) return known.reading;
      const reading = readTongue(await readFile(path, 'utf8'), language);
      kept.set(language, { changed, reading });
      return reading;
    },
  };
}

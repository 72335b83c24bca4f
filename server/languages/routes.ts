import { listLanguages, readLanguage } from '@basileus/contract';
import { say } from '@basileus/core/text';
import type { Router } from 'express';
import { AppError, route } from '../http';
import type { Languages } from './files';

export function addLanguageRoutes(router: Router, languages: Languages): void {
  route(router, listLanguages, async () => ({
    rows: await Promise.all(
      (await languages.list()).map(async (language) => {
        const reading = await languages.read(language);
        return reading?.ok
          ? {
              language,
              name: reading.tongue.name,
              sentences: Object.keys(reading.tongue.says).length + Object.keys(reading.tongue.findings).length,
              fault: null,
            }
          : { language, name: language, sentences: 0, fault: reading?.reason ?? null };
      }),
    ),
  }));
  route(router, readLanguage, async ({ params: { language } }) => {
    const reading = await languages.read(language);
    if (!reading) throw new AppError('not-found', say`There is no file of the language “${language}”.`);
    if (!reading.ok)
      throw new AppError('unreadable-file', say`The file of the language ${language} cannot be read.`, {
        remedy: reading.reason,
      });
    return reading.tongue;
  });
}

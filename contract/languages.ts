// The languages in which the interface can speak beside English: files that anybody can add.
import { tongueSchema } from '@basileus/core/text';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { nothing } from './shapes';

export const listLanguages = defineEndpoint({
  id: 'listLanguages',
  method: 'get',
  path: '/languages',
  about: 'The languages in which the interface can speak beside English, with how many sentences each has.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({
    rows: z.array(
      z.object({
        language: z.string(),
        name: z.string(),
        sentences: z.number(),
        /** Why the file cannot be spoken from; null where it can. */
        fault: z.string().nullable(),
      }),
    ),
  }),
});
export const readLanguage = defineEndpoint({
  id: 'readLanguage',
  method: 'get',
  path: '/languages/:language',
  about: 'The sentences of the interface in one language, by the English ones.',
  params: z.object({ language: z.string().max(40) }),
  query: nothing,
  body: nothing,
  response: tongueSchema,
});

// The rulebook format and the demands of categories as JSON Schema, for programs that are not ours.
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { marketParam, nothing, word } from './shapes';

export const readRulebookSchema = defineEndpoint({
  id: 'readRulebookSchema',
  method: 'get',
  path: '/rulebook-schema',
  about: 'The rulebook format as JSON Schema (draft 2020-12), for editors and programs that write rulebooks.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.record(z.string(), z.unknown()),
});
export const readCategorySchema = defineEndpoint({
  id: 'readCategorySchema',
  method: 'get',
  path: '/markets/:market/rulebook/categories/:category/schema',
  about:
    'What a listing that is sold holds in a category, as JSON Schema (draft 2020-12): fields, lists, and what must be there.',
  params: marketParam.extend({ category: word }),
  query: nothing,
  body: nothing,
  response: z.record(z.string(), z.unknown()),
});

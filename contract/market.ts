import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { marketParam, nothing } from './shapes';

export const listMarkets = defineEndpoint({
  id: 'listMarkets',
  method: 'get',
  path: '/markets',
  about: 'The markets we sell on.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({
    rows: z.array(
      z.object({
        key: z.string(),
        name: z.string(),
        version: z.string(),
        sites: z.array(
          z.object({
            key: z.string(),
            name: z.string(),
            country: z.string(),
            currency: z.string(),
            optional: z.boolean(),
          }),
        ),
      }),
    ),
  }),
});
export const readRulebook = defineEndpoint({
  id: 'readRulebook',
  method: 'get',
  path: '/markets/:market/rulebook',
  about: 'The rulebook in force made ready: attributes by language and site spread out, offers and titles named.',
  params: marketParam,
  query: nothing,
  body: nothing,
  response: z.record(z.string(), z.unknown()),
});
export const readRulebookDocument = defineEndpoint({
  id: 'readRulebookDocument',
  method: 'get',
  path: '/markets/:market/rulebook/document',
  about: 'The rulebook in force as its author wrote it: what can be changed and put in force again.',
  params: marketParam,
  query: nothing,
  body: nothing,
  response: z.record(z.string(), z.unknown()),
});
export const putRulebook = defineEndpoint({
  id: 'putRulebook',
  method: 'put',
  path: '/markets/:market/rulebook',
  about:
    'Puts a new rulebook version in force and checks everything anew. A wrong document is refused with the path and the reason.',
  params: marketParam,
  query: nothing,
  body: z.record(z.string(), z.unknown()),
  response: z.object({ version: z.string(), job: z.string() }),
});
/** Blank templates into which the files of forms are written. */
export const listTemplates = defineEndpoint({
  id: 'listTemplates',
  method: 'get',
  path: '/markets/:market/templates',
  about: 'Blank templates of a market that its files are written into, by form.',
  params: marketParam,
  query: nothing,
  body: nothing,
  response: z.object({
    rows: z.array(
      z.object({
        form: z.string(),
        name: z.string(),
        sheet: z.string(),
        /** The row of the sheet, from 1, in which the first item stands. */
        firstRow: z.number(),
        at: z.string(),
      }),
    ),
  }),
});
export const putTemplate = defineEndpoint({
  id: 'putTemplate',
  takesFile: true,
  method: 'post',
  path: '/markets/:market/templates/:form',
  about:
    'Takes the blank template that a market gives out (multipart, one part named “file”): files of the form are written into it from then on. Refused where its columns are not those of the form.',
  params: marketParam.extend({ form: z.string().max(60) }),
  query: z.object({
    /** The sheet to fill and its first row, from 1, where a person says so; else they are found. */
    sheet: z.string().max(31).default(''),
    firstRow: z.coerce.number().int().min(0).max(1000).default(0),
  }),
  body: z.any(),
  /** The first row from 1. */
  response: z.object({ sheet: z.string(), firstRow: z.number() }),
});
export const removeTemplate = defineEndpoint({
  id: 'removeTemplate',
  method: 'delete',
  path: '/markets/:market/templates/:form',
  about: 'Forgets the template of a form: its files are workbooks of one sheet again.',
  params: marketParam.extend({ form: z.string().max(60) }),
  query: nothing,
  body: nothing,
  response: z.object({ ok: z.literal(true) }),
});

export const compareRulebook = defineEndpoint({
  id: 'compareRulebook',
  method: 'post',
  path: '/markets/:market/rulebook/compare',
  about: 'Says what a document would change against the rulebook in force. Nothing is changed.',
  params: marketParam,
  query: nothing,
  body: z.record(z.string(), z.unknown()),
  response: z.object({
    version: z.string(),
    inForce: z.string(),
    changes: z.array(
      z.object({
        area: z.enum(['categories', 'demands', 'attributes', 'codes', 'files', 'terms']),
        kind: z.enum(['new', 'gone', 'changed']),
        says: z.string(),
      }),
    ),
  }),
});

export const findInMarket = defineEndpoint({
  id: 'findInMarket',
  method: 'get',
  path: '/markets/:market/find',
  about: 'Looks whether the market already has an entry, by number or words.',
  params: marketParam,
  query: z.object({ q: z.string().min(2).max(300) }),
  body: nothing,
  response: z.object({
    rows: z.array(
      z.object({
        number: z.string(),
        title: z.string(),
        brand: z.string(),
        identifier: z.string(),
        category: z.string(),
      }),
    ),
  }),
});

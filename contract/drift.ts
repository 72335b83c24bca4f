// What a market shows otherwise than it took.
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { id, marketParam, nothing, page } from './shapes';

const count = z.number();
export const listDrift = defineEndpoint({
  id: 'listDrift',
  method: 'get',
  path: '/markets/:market/drift',
  about: 'Entries of which the market shows another price or stock than it took, with what we hold.',
  params: marketParam,
  query: page,
  body: nothing,
  response: z.object({
    total: count,
    rows: z.array(
      z.object({
        listingId: z.number(),
        sku: z.string(),
        title: z.string(),
        link: z.string().nullable(),
        since: z.string(),
        fields: z.array(
          z.object({ field: z.string(), label: z.string(), shows: z.string(), took: z.string(), ours: z.string() }),
        ),
      }),
    ),
  }),
});
export const settleDrift = defineEndpoint({
  id: 'settleDrift',
  method: 'post',
  path: '/markets/:market/drift',
  about:
    'Puts right what a market shows otherwise: what we hold goes again with the next sending (“ours”), or the prices that it shows are ours there from now on, as a change set (“theirs”).',
  params: marketParam,
  query: nothing,
  body: z.object({ ids: z.array(id).min(1).max(5000), how: z.enum(['ours', 'theirs']) }),
  response: z.object({ settled: count, changeSet: z.number().nullable() }),
});

// Pictures behind the links of the catalog: which hosts may be asked, and what was found there.
import { pictureKinds } from '@basileus/core/pictures';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { nothing } from './shapes';

export const pictureStates = ['waiting', 'there', 'missing', 'strange', 'unreachable'] as const;
const count = z.number();
const host = z
  .string()
  .max(255)
  .regex(/^[a-z0-9.-]+(:\d{1,5})?$/, 'A host is a name such as pictures.example, with a port where it has one.');
const hostParam = z.object({ host });
const ok = z.object({ ok: z.literal(true) });

export const listPictureHosts = defineEndpoint({
  id: 'listPictureHosts',
  method: 'get',
  path: '/picture-hosts',
  about: 'The hosts of the pictures in the catalog, and what was found at those that may be asked.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({
    rows: z.array(
      z.object({
        host: z.string(),
        links: count,
        found: z.object(
          Object.fromEntries(pictureStates.map((s) => [s, count])) as Record<
            (typeof pictureStates)[number],
            typeof count
          >,
        ),
        /** Who lets it be asked, and since when; null where nobody does. */
        asked: z.object({ by: z.string(), at: z.string(), address: z.string().nullable() }).nullable(),
      }),
    ),
  }),
});
export const askPictureHost = defineEndpoint({
  id: 'askPictureHost',
  method: 'put',
  path: '/picture-hosts/:host',
  about: 'Lets the pictures of a host be looked at, at its own address or at another by which it is reached from here.',
  params: hostParam,
  query: nothing,
  body: z.object({
    address: z
      .string()
      .trim()
      .max(500)
      .regex(
        /^https?:\/\/[A-Za-z0-9.-]+(:\d{1,5})?\/?$/,
        'An address begins with http:// or https:// and has no path, such as http://pictures.internal.example:8080.',
      )
      .nullable()
      .default(null),
  }),
  response: ok,
});
export const leavePictureHost = defineEndpoint({
  id: 'leavePictureHost',
  method: 'delete',
  path: '/picture-hosts/:host',
  about: 'A host is not asked any more; what was found there is not shown, and is forgotten by a job.',
  params: hostParam,
  query: nothing,
  body: nothing,
  response: ok,
});
export const lookAgain = defineEndpoint({
  id: 'lookAgain',
  method: 'post',
  path: '/picture-hosts/:host/look',
  about: 'All pictures of a host are looked at anew.',
  params: hostParam,
  query: nothing,
  body: nothing,
  response: ok,
});
export const describePictures = defineEndpoint({
  id: 'describePictures',
  method: 'post',
  path: '/pictures/found',
  about:
    'What was found behind some links; links that are not in the catalog, or whose host is not asked, are left out.',
  params: nothing,
  query: nothing,
  body: z.object({ links: z.array(z.string().max(2000)).max(200) }),
  response: z.object({
    rows: z.array(
      z.object({
        link: z.string(),
        state: z.enum(pictureStates),
        status: count.nullable(),
        width: count.nullable(),
        height: count.nullable(),
        kind: z.enum(pictureKinds).nullable(),
        bytes: count.nullable(),
        isOnWhite: z.boolean().nullable(),
      }),
    ),
  }),
});
export const readThumb = defineEndpoint({
  id: 'readThumb',
  method: 'get',
  path: '/pictures/small',
  about: 'A picture made small, as WebP.',
  params: nothing,
  query: z.object({ link: z.string().max(2000) }),
  body: nothing,
  response: z.any(),
  answers: 'image/webp',
});
export const matchPictures = defineEndpoint({
  id: 'matchPictures',
  method: 'post',
  path: '/pictures/match',
  about:
    'Matches pictures to items by what their files and folders are called, and brings what would change in as an import that waits for a look.',
  params: nothing,
  query: nothing,
  body: z.object({
    /** Links, or names of files with their folders. */
    links: z.array(z.string().max(2000)).min(1).max(100_000),
    /** The address under which files are that are only named. */
    under: z
      .string()
      .trim()
      .max(1000)
      .regex(
        /^(https?:\/\/[^\s?#]+)?$/,
        'An address begins with http:// or https://, such as https://pictures.example/goods/.',
      )
      .default(''),
    /** Whether an item's pictures are replaced, or others stand behind them. */
    how: z.enum(['replace', 'add']).default('replace'),
    bring: z.boolean().default(false),
  }),
  response: z.object({
    /** Items that were found, those of them whose pictures would change, and how many pictures they were given. */
    items: count,
    changed: count,
    pictures: count,
    /** The first of those that would change. */
    rows: z.array(
      z.object({ sku: z.string(), title: z.string(), before: z.array(z.string()), after: z.array(z.string()) }),
    ),
    unmatched: z.object({ count, links: z.array(z.string()) }),
    unclear: z.object({ count, links: z.array(z.object({ link: z.string(), skus: z.array(z.string()) })) }),
    import: count.nullable(),
  }),
});

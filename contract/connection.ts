// Markets as people add, reach, pause and remove them, and the rates of their currencies.
import { isKnownCurrency } from '@basileus/core/quantity';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { marketParam, nothing, word } from './shapes';

const count = z.number();
/** An address as a person enters it for a market: a plain web address, without a name, a password or a question in it. */
const marketUrl = z
  .string()
  .max(300)
  .regex(
    /^(https?|sftp):\/\/[A-Za-z0-9.-]+(:\d{1,5})?(\/[A-Za-z0-9._~/-]*)?$/,
    'An address begins with https://, http:// or sftp:// and holds no name, password or question, such as https://market.example/seller.',
  );
/** The name that a market knows us by, where it knows sellers by name and key. */
const userName = z
  .string()
  .max(100)
  .regex(/^[A-Za-z0-9][A-Za-z0-9._@+-]*$/, 'A name is letters, digits and . _ @ + - only.');
/**
 * The key that a market knows us by: as it gives it, printable and without a space, or the private half of a key pair as
 * OpenSSH or PEM writes it. It is kept and never read out.
 */
const marketKey = z
  .string()
  .max(20_000)
  .refine(
    (t) => (t.length <= 500 && /^[!-~]+$/.test(t)) || privateKey.test(t),
    'A key is what the market has given, without a space or a line end, or a whole private key from its first line of dashes to its last.',
  )
  .transform((t) => (privateKey.test(t) ? `${t.trim().replace(/\r\n?/g, '\n')}\n` : t));
const privateKey =
  /^\s*-----BEGIN [A-Z0-9 ]*PRIVATE KEY-----[A-Za-z0-9+/=:,.\-\s]+-----END [A-Z0-9 ]*PRIVATE KEY-----\s*$/;
const currency = z.string().refine(isKnownCurrency, 'Unknown currency; use an ISO 4217 code.');
const amount = z.string().regex(/^\d{1,9}(\.\d{1,6})?$/, 'An amount is a number with a point, such as 0.99.');
const priceRule = z.object({
  percent: z
    .string()
    .regex(/^-?\d{1,3}(\.\d{1,4})?$/, 'Percent are a number with a point, such as 7.5 or -16.7.')
    .refine((p) => Number(p) > -100, 'More than all of it cannot come off.'),
  round: z
    .object({ step: amount.refine((s) => Number(s) > 0, 'A step is over nought.'), ending: amount })
    .refine((r) => Number(r.ending) < Number(r.step), 'An ending is under its step.')
    .nullable(),
});
export const marketSettings = z.object({
  /** Pieces kept back from what is published as stock. */
  buffer: z.int().min(0).max(100_000).default(0),
  /** The least stock that is shown at all. */
  least: z.int().min(0).max(100_000).default(0),
  /** The most that is shown; null for as much as the market takes. */
  most: z.int().min(1).max(1_000_000).nullable().default(null),
  /** Its weight where the stock is shared out among the markets that have one; null where all of it is shown. */
  weight: z.int().min(1).max(1000).nullable().default(null),
  /** By currency, how prices are made of the house price where an item has none of its own; not made where it says nothing. */
  prices: z.record(currency, priceRule).default({}),
});
export const createMarket = defineEndpoint({
  id: 'createMarket',
  method: 'post',
  path: '/markets',
  about:
    'Adds a market by its rulebook: every item gets a listing there, which a job checks. A wrong document is refused with the path and the reason.',
  params: nothing,
  query: nothing,
  body: z.object({
    document: z.record(z.string(), z.unknown()),
    url: marketUrl.nullable().default(null),
    settings: marketSettings.prefault({}),
    secret: marketKey.nullable().default(null),
    user: userName.nullable().default(null),
  }),
  response: z.object({ key: z.string(), name: z.string(), job: z.string() }),
});
export const readMarket = defineEndpoint({
  id: 'readMarket',
  method: 'get',
  path: '/markets/:market',
  about: 'How a market is reached and what is published there. Secrets are not among it.',
  params: marketParam,
  query: nothing,
  body: nothing,
  response: z.object({
    key: z.string(),
    name: z.string(),
    version: z.string(),
    transport: z.enum(['http', 'sftp', 'by-hand']),
    url: z.string().nullable(),
    /** Whether the market knows sellers by a key, and since when one is kept. */
    asksKey: z.boolean(),
    keySince: z.string().nullable(),
    /** The public half where the key that is kept is the private half of a pair; what the market is given. */
    publicKey: z.string().nullable(),
    /** The name that the market knows us by, where it needs one. */
    user: z.string().nullable(),
    /** What the host of an SFTP market has shown, as OpenSSH writes it; null where we have not been there. */
    host: z.string().nullable(),
    isPaused: z.boolean(),
    settings: marketSettings,
    /** Markets among which stock is shared out, with their weights. */
    sharing: z.array(z.object({ key: z.string(), name: z.string(), weight: count })),
    /** How many of them stand before this one, which counts where a piece is due to several. */
    sharingBefore: count,
    listings: count,
    live: count,
  }),
});
export const listRates = defineEndpoint({
  id: 'listRates',
  method: 'get',
  path: '/rates',
  about:
    'What one unit of the house currency buys of the currencies in which markets sell; empty where nobody has said.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({
    house: z.string(),
    rows: z.array(
      z.object({
        currency: z.string(),
        rate: z.string().nullable(),
        by: z.string().nullable(),
        at: z.string().nullable(),
        markets: z.array(z.string()),
      }),
    ),
  }),
});
export const putRate = defineEndpoint({
  id: 'putRate',
  method: 'put',
  path: '/rates/:currency',
  about: 'Says what one unit of the house currency buys of another. What sells in it is checked anew by a job.',
  params: z.object({ currency }),
  query: nothing,
  body: z.object({
    rate: z
      .string()
      .regex(/^\d{1,9}(\.\d{1,9})?$/, 'A rate is a number with a point, such as 1.1723.')
      .refine((r) => Number(r) > 0, 'A rate is over nought.'),
  }),
  response: z.object({ ok: z.literal(true) }),
});
export const changeMarket = defineEndpoint({
  id: 'changeMarket',
  method: 'patch',
  path: '/markets/:market',
  about:
    'Changes the address, the settings or whether the market is paused. A paused market is neither asked nor sent to.',
  params: marketParam,
  query: nothing,
  body: z.object({
    url: marketUrl.nullable().optional(),
    settings: marketSettings.optional(),
    isPaused: z.boolean().optional(),
    /** A new key; null forgets it. With a new host, the old key is forgotten. */
    secret: marketKey.nullable().optional(),
    user: userName.nullable().optional(),
    /** Takes whatever host key is shown next: the market has said that it has a new one. */
    forgetHost: z.literal(true).optional(),
  }),
  response: z.object({ ok: z.literal(true) }),
});
export const makeKeyPair = defineEndpoint({
  id: 'makeKeyPair',
  method: 'post',
  path: '/markets/:market/key-pair',
  about:
    'Makes a key pair for a market of folders and keeps its private half in place of the key that was kept. The public half is what the market is given.',
  params: marketParam,
  query: nothing,
  body: nothing,
  response: z.object({ publicKey: z.string() }),
});
export const tryConnection = defineEndpoint({
  id: 'tryConnection',
  method: 'post',
  path: '/markets/:market/try',
  about: 'Tries the connection for real: asks the market for its shelf list. Nothing is changed.',
  params: marketParam,
  query: nothing,
  body: z.object({ url: marketUrl.nullable().optional(), secret: marketKey.optional(), user: userName.optional() }),
  response: z.discriminatedUnion('is', [
    z.object({ is: z.literal('good'), entries: count }),
    z.object({ is: z.literal('bad'), says: z.string(), remedy: z.string() }),
    z.object({ is: z.literal('by-hand') }),
  ]),
});
export const removeMarket = defineEndpoint({
  id: 'removeMarket',
  method: 'delete',
  path: '/markets/:market',
  about:
    'Removes a market with its listings, dispatches and correspondences. Refused while something is on its way. The name must be given, since it cannot be taken back.',
  params: marketParam,
  query: z.object({ name: word }),
  body: nothing,
  response: z.object({ ok: z.literal(true) }),
});

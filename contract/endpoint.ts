import type { z } from 'zod';

export type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';
/** One endpoint: server `route()` and web `call()` take the same object, so that a missing field does not compile. */
export interface Endpoint<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  R extends z.ZodType = z.ZodType,
> {
  id: string;
  method: Method;
  path: string;
  about: string;
  params: P;
  query: Q;
  body: B;
  response: R;
  /** True where the request is a form with a file in it; everywhere else it is JSON. */
  takesFile?: true;
  /** Set where the answer is a file or a stream, not JSON. */
  answers?: string;
}

/** Gives an endpoint its types. Paths are written as Express writes them. */
export const defineEndpoint = <P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType>(
  e: Endpoint<P, Q, B, R>,
): Endpoint<P, Q, B, R> => e;

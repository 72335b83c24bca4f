import { type Endpoint, personHead } from '@basileus/contract';
import type { Request, Response, Router } from 'express';
import type { z } from 'zod';
import { AppError } from './errors';
import { judgeInput } from './judge-input';
import { readPerson } from './person';
import { say } from '@basileus/core/text';

export interface Call<E extends Endpoint> {
  params: z.output<E['params']>;
  query: z.output<E['query']>;
  body: z.output<E['body']>;
  actor: string;
  request: Request;
  response: Response;
}

/** PostgreSQL ended one of two transactions that waited for each other, or one that could not be put in order. */
const wasVictim = (error: unknown): boolean => ['40P01', '40001'].includes((error as { code?: string }).code ?? '');
const mostTries = 3;

/** A victim's work was rolled back whole, so it is done again rather than refused. */
async function tryAgain<T>(work: () => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await work();
    } catch (error) {
      if (attempt === mostTries || !wasVictim(error)) throw error;
    }
  }
}

/** True for a request that carries nothing. */
const isEmpty = (request: Request): boolean =>
  request.headers['transfer-encoding'] === undefined && Number(request.headers['content-length'] ?? 0) === 0;

/** Binds an endpoint to its handler: input validated on the way in, output typed by the contract. */
export function route<E extends Endpoint>(
  router: Router,
  endpoint: E,
  handle: (call: Call<E>) => Promise<z.input<E['response']> | undefined>,
): void {
  router[endpoint.method](endpoint.path, async (request: Request, response: Response) => {
    const isUpload = endpoint.takesFile === true;
    const hasBody = !isUpload && endpoint.method !== 'get' && endpoint.method !== 'delete';
    if (hasBody && request.body === undefined && !isEmpty(request))
      throw new AppError('wrong-form', say`${endpoint.method.toUpperCase()} ${endpoint.path} takes JSON.`, {
        remedy: say`Send it with Content-Type: application/json.`,
      });
    judgeInput([request.params, request.query, hasBody ? request.body : undefined]);
    const given: Call<E> = {
      params: endpoint.params.parse(request.params) as z.output<E['params']>,
      query: endpoint.query.parse(request.query) as z.output<E['query']>,
      body: (hasBody ? endpoint.body.parse(request.body ?? {}) : undefined) as z.output<E['body']>,
      actor: readPerson(request.headers[personHead.toLowerCase()]),
      request,
      response,
    };
    // The bytes of an upload can be read only once.
    const result = await (isUpload ? handle(given) : tryAgain(() => handle(given)));
    if (!response.headersSent && result !== undefined) response.json(result);
  });
}

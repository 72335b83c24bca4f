import type { Endpoint } from '@basileus/contract';
import type { Request, Response, Router } from 'express';
import type { z } from 'zod';

export interface Call<E extends Endpoint> {
  params: z.output<E['params']>;
  query: z.output<E['query']>;
  body: z.output<E['body']>;
  actor: string;
  request: Request;
  response: Response;
}

/** Binds an endpoint to its handler: input validated on the way in, output typed by the contract. */
export function route<E extends Endpoint>(
  router: Router,
  endpoint: E,
  handle: (call: Call<E>) => Promise<z.input<E['response']> | undefined>,
): void {
  router[endpoint.method](endpoint.path, async (request: Request, response: Response) => {
    const result = await handle({
      params: endpoint.params.parse(request.params) as z.output<E['params']>,
      query: endpoint.query.parse(request.query) as z.output<E['query']>,
      body: (request.is('multipart/form-data') || endpoint.method === 'get' || endpoint.method === 'delete'
        ? undefined
        : endpoint.body.parse(request.body ?? {})) as z.output<E['body']>,
      actor: String(request.headers['x-person'] ?? 'Catalog desk').slice(0, 80),
      request,
      response,
    });
    if (!response.headersSent && result !== undefined) response.json(result);
  });
}

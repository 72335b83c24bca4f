import { type Endpoint, type ErrorBody, personHead } from '@basileus/contract';
import { say, tongueNow } from '@basileus/core/text';
import type { z } from 'zod';
import { personNow } from './person';

/** A refusal of the server, with its field and remedy. */
export class CallError extends Error {
  constructor(readonly body: ErrorBody) {
    super(body.message);
  }
}

type Input<T extends z.ZodType> = z.input<T>;
type Given<E extends Endpoint> = {
  params?: Input<E['params']>;
  query?: Input<E['query']>;
  body?: Input<E['body']>;
  form?: FormData;
  signal?: AbortSignal;
};

/** Address of an endpoint, for links that the browser follows itself. */
export function addressOf<E extends Endpoint>(endpoint: E, given: Given<E> = {}): string {
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) =>
    encodeURIComponent(String((given.params as Record<string, unknown>)[name])),
  );
  const query = new URLSearchParams(
    Object.entries((given.query ?? {}) as Record<string, unknown>).flatMap(([k, v]) =>
      v === undefined || v === '' ? [] : [[k, String(v)]],
    ),
  );
  return `/api${path}${query.size ? `?${query}` : ''}`;
}

/** Calls an endpoint with what its contract asks and answers what it promises. */
export async function call<E extends Endpoint>(endpoint: E, given: Given<E> = {}): Promise<z.output<E['response']>> {
  const tongue = tongueNow(),
    person = personNow(),
    isJson = !given.form && (given.body !== undefined || !['get', 'delete'].includes(endpoint.method));
  const response = await fetch(addressOf(endpoint, given), {
    method: endpoint.method.toUpperCase(),
    headers: {
      ...(tongue ? { 'Accept-Language': tongue.language } : {}),
      ...(person === '' ? {} : { [personHead]: encodeURIComponent(person) }),
      ...(isJson ? { 'Content-Type': 'application/json' } : {}),
    },
    ...(given.form ? { body: given.form } : isJson ? { body: JSON.stringify(given.body ?? {}) } : {}),
    ...(given.signal ? { signal: given.signal } : {}),
  }).catch(() => {
    throw new CallError({
      code: 'not-ready',
      message: say`The server cannot be reached.`,
      field: null,
      remedy: say`Try again when it answers.`,
    });
  });
  const body: unknown = await response.json().catch(() => null);
  if (!response.ok)
    throw new CallError(
      (body as ErrorBody | null) ?? {
        code: 'internal',
        message: say`The server answered ${response.status}.`,
        field: null,
        remedy: say`Try again.`,
      },
    );
  return body as z.output<E['response']>;
}

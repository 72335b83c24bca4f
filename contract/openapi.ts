import { z } from 'zod';
import * as bulk from './bulk';
import * as catalog from './catalog';
import * as causes from './causes';
import * as connection from './connection';
import * as dispatch from './dispatch';
import type { Endpoint } from './endpoint';
import { errorSchema } from './errors';
import * as exported from './exports';
import * as house from './house';
import * as imports from './imports';
import * as languages from './languages';
import * as market from './market';
import * as own from './own';
import * as plan from './plan';
import * as reshape from './reshape';
import * as schemas from './schemas';
import * as sources from './sources';
import * as table from './table';

const isEndpoint = (x: unknown): x is Endpoint => typeof x === 'object' && x !== null && 'method' in x && 'path' in x;
/** Every endpoint there is. */
export const endpoints: readonly Endpoint[] = [
  catalog,
  table,
  reshape,
  sources,
  bulk,
  imports,
  exported,
  market,
  connection,
  own,
  schemas,
  causes,
  plan,
  dispatch,
  languages,
  house,
].flatMap((m) => Object.values(m).filter(isEndpoint));

const schemaOf = (s: z.ZodType, io: 'input' | 'output') => z.toJSONSchema(s, { unrepresentable: 'any', io });

/** The OpenAPI 3.1 document of the whole interface. */
export function buildOpenApi(): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const e of endpoints) {
    const path = `/api${e.path.replace(/:(\w+)/g, '{$1}')}`;
    const named = (where: 'path' | 'query', s: z.ZodType) =>
      Object.entries((schemaOf(s, 'input') as { properties?: Record<string, unknown> }).properties ?? {}).map(
        ([name, schema]) => ({ name, in: where, required: where === 'path', schema }),
      );
    const hasBody = e.method !== 'get' && e.method !== 'delete';
    (paths[path] ??= {})[e.method] = {
      operationId: e.id,
      summary: e.about,
      parameters: [...named('path', e.params), ...named('query', e.query)],
      ...(hasBody ? { requestBody: { content: { 'application/json': { schema: schemaOf(e.body, 'input') } } } } : {}),
      responses: {
        200: {
          description: 'Done',
          content: { [e.answers ?? 'application/json']: { schema: schemaOf(e.response, 'output') } },
        },
        default: {
          description: 'Refused',
          content: { 'application/json': { schema: schemaOf(errorSchema, 'output') } },
        },
      },
    };
  }
  return { openapi: '3.1.0', info: { title: 'Basileus', version: '0.1.0' }, paths };
}

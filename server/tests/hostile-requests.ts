// Wrong requests without end, from a seed: for every endpoint something near what it takes, with something in it that it
// does not. Shared by the tests (some thousands) and the long run in bench/.
import { type Endpoint, endpoints } from '@basileus/contract';
import { z } from 'zod';

export interface HostileRequest {
  about: string;
  method: string;
  path: string;
  headers: Record<string, string>;
  body: string | undefined;
}
type Random = () => number;
interface Schema {
  type?: string | string[];
  properties?: Record<string, Schema>;
  items?: Schema;
  anyOf?: Schema[];
  enum?: unknown[];
  const?: unknown;
  maxLength?: number;
}

/** Numbers from 0 to 1, the same for the same seed (mulberry32). */
export function startRandom(seed: number): Random {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
const pick = <T>(list: readonly T[], random: Random): T => list[Math.floor(random() * list.length)]!;

const deep = (n: number): unknown => JSON.parse(`${'['.repeat(n)}${']'.repeat(n)}`) as unknown;
const hostileValues: readonly (() => unknown)[] = [
  () => null,
  () => true,
  () => -1,
  () => 1.5,
  () => 1e30,
  () => 2 ** 53,
  () => 2147483648,
  () => '',
  () => 'x'.repeat(100_000),
  () => '\u0000',
  () => 'a\u0000b',
  () => '\ud800',
  () => 'half 😀'.slice(0, -1),
  () => '__proto__',
  () => 'constructor',
  () => "'; drop table products; --",
  () => '%00',
  () => '\\',
  () => '../../etc/passwd',
  () => 'NaN',
  () => '9'.repeat(400),
  () => [],
  () => [[]],
  () => ({}),
  () => ({ toString: 1 }),
  () => deep(3000),
  () => Array.from({ length: 3000 }, (_, i) => i),
  () => '‮ right to left',
  () => '10000000000.00',
  () => '{"a":1}',
  () => '@'.repeat(5000),
];
const hostilePathParts = [
  '0',
  '-1',
  '1.5',
  '1e30',
  'NaN',
  '%00',
  '%ED%A0%80',
  '%E0%A4%A',
  'constructor',
  '__proto__',
  '..%2f..%2f',
  '9'.repeat(60),
  'x'.repeat(4000),
  '%F0%9F%98%80',
  "1'or'1'='1",
];
const contentTypes = [
  'application/json',
  'application/json; charset=utf-16',
  'text/plain',
  'application/x-www-form-urlencoded',
  'multipart/form-data',
  'multipart/form-data; boundary=x',
  'multipart/form-data; boundary=',
  'application/octet-stream',
  '',
];
const formBodies = [
  '--x\r\nContent-Disposition: form-data; name="file"; filename="a.csv"\r\n\r\nSKU,Ti',
  '--x\r\nContent-Disposition: form-data; name="other"; filename="a.csv"\r\n\r\nSKU\r\n--x--\r\n',
  '--x\r\nContent-Disposition: form-data; name="file"\r\n\r\nnot a file\r\n--x--\r\n',
  '--x--\r\n',
  '--x\r\n\r\n',
  '--x\r\nContent-Disposition: form-data; name="file"; filename="../\u0001/\ud83d"\r\n\r\n\r\n--x--\r\n',
  '',
  '--y\r\nwhat',
];

/** Something that a schema takes, or nearly. */
function likely(schema: Schema, random: Random, depth = 0): unknown {
  if (schema.anyOf) return likely(pick(schema.anyOf, random), random, depth + 1);
  if (schema.enum) return pick(schema.enum, random);
  if (schema.const !== undefined) return schema.const;
  const type = Array.isArray(schema.type) ? pick(schema.type, random) : schema.type;
  switch (type) {
    case 'object':
      return Object.fromEntries(
        Object.entries(schema.properties ?? {})
          .filter(() => random() > 0.1)
          .map(([k, s]) => [k, likely(s, random, depth + 1)]),
      );
    case 'array':
      return depth > 6
        ? []
        : Array.from({ length: Math.ceil(random() * 3) }, () => likely(schema.items ?? {}, random, depth + 1));
    case 'integer':
    case 'number':
      return Math.ceil(random() * 300);
    case 'boolean':
      return random() > 0.5;
    case 'null':
      return null;
    default:
      return pick(['sku', 'title', 'price', 'category', '12.50', 'MP-MUG-06', 'x', 'quillhaven', ','], random);
  }
}

/** Puts one hostile value somewhere into something likely. */
function spoil(value: unknown, random: Random): unknown {
  if (typeof value !== 'object' || value === null || random() < 0.25) return pick(hostileValues, random)();
  const keys = Object.keys(value);
  if (keys.length === 0) return pick(hostileValues, random)();
  const key = pick(keys, random);
  if (Array.isArray(value)) return value.map((v, i) => (String(i) === key ? spoil(v, random) : (v as unknown)));
  return { ...value, [random() < 0.05 ? '__proto__x' : key]: spoil((value as Record<string, unknown>)[key], random) };
}

const schemas = new Map<string, { body: Schema; query: Schema }>();
function schemasOf(e: Endpoint): { body: Schema; query: Schema } {
  const toSchema = (s: z.ZodType) => z.toJSONSchema(s, { unrepresentable: 'any', io: 'input' }) as Schema;
  const known = schemas.get(e.id) ?? { body: toSchema(e.body), query: toSchema(e.query) };
  schemas.set(e.id, known);
  return known;
}

/** One request, the same for the same numbers. `leaveOut` names endpoints that are not asked. */
export function makeHostileRequest(random: Random, leaveOut: readonly string[] = ['streamEvents']): HostileRequest {
  const endpoint = pick(
    endpoints.filter((e) => !leaveOut.includes(e.id)),
    random,
  );
  const { body, query } = schemasOf(endpoint);
  const where = pick(['path', 'query', 'body', 'body', 'form', 'json', 'nothing'] as const, random);
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) =>
    where === 'path' && random() < 0.8
      ? pick(hostilePathParts, random)
      : name === 'market'
        ? 'quillhaven'
        : name === 'operation'
          ? pick(['price', 'create', 'stock'], random)
          : name === 'attribute'
            ? 'colour'
            : String(1 + Math.floor(random() * 3)),
  );
  const asked = likely(query, random) as Record<string, unknown>;
  const spoilt = where === 'query' ? (spoil(asked, random) as Record<string, unknown> | null) : asked;
  const pairs = Object.entries(typeof spoilt === 'object' && spoilt !== null ? spoilt : { offset: spoilt })
    .slice(0, 20)
    .map(
      ([k, v]) =>
        `${encodeURIComponent(k)}=${encodeText(typeof v === 'string' ? v.slice(0, 3000) : String(JSON.stringify(v) ?? '').slice(0, 3000))}`,
    );
  const given = likely(body, random);
  const hasBody = endpoint.method !== 'get' && endpoint.method !== 'delete';
  return {
    about: `${endpoint.id} (${where})`,
    method: endpoint.method.toUpperCase(),
    path: `/api${path}${pairs.length ? `?${pairs.join('&')}` : ''}`,
    headers: hasBody
      ? { 'Content-Type': where === 'form' || where === 'nothing' ? pick(contentTypes, random) : 'application/json' }
      : {},
    body: !hasBody
      ? undefined
      : where === 'form'
        ? pick(formBodies, random)
        : where === 'json'
          ? pick(['{', 'null', '[]', '"x"', '{"cells":', '\ufeff{}', '{"a":1}}', ''], random)
          : where === 'nothing'
            ? ''
            : JSON.stringify(where === 'body' ? spoil(given, random) : given),
  };
}

const encodeText = (text: string): string => {
  try {
    return encodeURIComponent(text);
  } catch {
    return '%ED%A0%80';
  }
};

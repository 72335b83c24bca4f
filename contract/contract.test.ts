import { describe, expect, it } from 'vitest';
import { buildOpenApi, endpoints, errorSchema, errorStatus, eventSchema, patchListings, patchProducts } from '.';

describe('the contract', () => {
  it('gives every endpoint a name of its own, a sentence, and a path of its own', () => {
    expect(new Set(endpoints.map((e) => e.id)).size).toBe(endpoints.length);
    expect(new Set(endpoints.map((e) => `${e.method} ${e.path}`)).size).toBe(endpoints.length);
    for (const e of endpoints) {
      expect(e.about, e.id).toMatch(/^[A-Z“].*\.$/s);
      expect(e.path).toMatch(/^\/[a-z]/);
    }
  });
  it('describes every parameter of every path', () => {
    const { paths } = buildOpenApi() as {
      paths: Record<string, Record<string, { parameters: { name: string; in: string; required: boolean }[] }>>;
    };
    for (const [path, methods] of Object.entries(paths))
      for (const [method, op] of Object.entries(methods)) {
        const named = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]);
        expect(
          op.parameters
            .filter((p) => p.in === 'path')
            .map((p) => p.name)
            .sort(),
          `${method} ${path}`,
        ).toEqual(named.sort());
      }
  });
  it('is a document that survives being written down', () => {
    expect(JSON.parse(JSON.stringify(buildOpenApi()))).toMatchObject({ openapi: '3.1.0' });
  });
  it('has one shape of error, with a status of its own kind', () => {
    for (const [code, status] of Object.entries(errorStatus)) {
      expect(status).toBeGreaterThanOrEqual(400);
      expect(errorSchema.safeParse({ code, message: 'x', field: null, remedy: null }).success).toBe(true);
    }
    expect(errorSchema.safeParse({ code: 'odd', message: 'x', field: null, remedy: null }).success).toBe(false);
  });
  it('takes cells with before and after, and refuses an empty patch', () => {
    expect(patchProducts.body.safeParse({ cells: [] }).success).toBe(false);
    expect(patchListings.body.parse({ cells: [{ id: 1, field: 'title', before: null, after: ['a'] }] })).toMatchObject({
      title: '',
    });
  });
  it('knows its topics', () => {
    expect(eventSchema.safeParse({ topic: 'weather' }).success).toBe(false);
    expect(eventSchema.safeParse({ topic: 'jobs', id: '1' }).success).toBe(true);
  });
});

// What comes from outside and is not meant well: foreign pages, rebound names, broken lines, wrong requests.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ask, breakOff } from '../tests/ask';
import { makeHostileRequest, startRandom } from '../tests/hostile-requests';
import { type House, openHouse, until } from '../tests/house';

let house: House, host: string;
beforeAll(async () => {
  house = await openHouse('hostile_test', { size: 60 });
  host = new URL(house.base).host;
});
afterAll(async () => {
  await house.close();
});

const patch = JSON.stringify({ cells: [{ id: 1, field: 'title', before: null, after: 'Taken over' }] });
const json = { 'Content-Type': 'application/json' };

describe('another web page', () => {
  it.each([
    ['an Origin of its own', { Origin: 'http://pages.example' }],
    ['an Origin of another port of this machine', { Origin: 'http://localhost:3000' }],
    ['the Origin of a sandbox', { Origin: 'null' }],
    ['a browser’s word that it is cross-site', { 'Sec-Fetch-Site': 'cross-site' }],
    ['a browser’s word that it is another port', { 'Sec-Fetch-Site': 'same-site' }],
  ])('with %s changes nothing and reads nothing', async (_, headers) => {
    for (const [method, path, body] of [
      ['PATCH', '/api/products', patch],
      ['POST', '/api/imports', '--x--'],
      ['GET', '/api/products', undefined],
      ['GET', '/api/events', undefined],
      ['DELETE', '/api/imports/1', undefined],
    ] as const) {
      const form = path === '/api/imports' ? { 'Content-Type': 'multipart/form-data; boundary=x' } : json;
      const r = await ask(house.base, method, path, { ...headers, ...form }, body);
      expect(r.status, `${method} ${path}`).toBe(403);
      expect(JSON.parse(r.text)).toMatchObject({ code: 'not-allowed' });
    }
    expect(await house.rows(`select 1 from products where title = 'Taken over'`)).toEqual([]);
  });
  it.each(['evil.example', 'evil.example:4600', '127.0.0.1.evil.example', '192.168.1.5'])(
    'that rebound its name to this machine (“%s”) reads nothing',
    async (name) => {
      const r = await ask(house.base, 'GET', '/api/products', { Host: name });
      expect([400, 403]).toContain(r.status);
      expect(r.text).not.toContain('rows');
    },
  );
  it('of our own reads and writes, and so does a program that is no browser', async () => {
    for (const headers of [
      {},
      { Origin: `http://${host}`, 'Sec-Fetch-Site': 'same-origin' },
      { 'Sec-Fetch-Site': 'none' },
      { Host: host.replace('127.0.0.1', 'localhost') },
    ] as Record<string, string>[])
      expect((await ask(house.base, 'GET', '/api/products?limit=1', headers)).status).toBe(200);
    const r = await ask(
      house.base,
      'PATCH',
      '/api/products',
      { ...json, Origin: `http://${host}`, 'Sec-Fetch-Site': 'same-origin' },
      JSON.stringify({ cells: [{ id: 999_999, field: 'title', before: null, after: 'x' }] }),
    );
    expect(r.status).toBe(200);
  });
  it('is kept from what it could embed: answers are not stored and not shared', async () => {
    const r = await ask(house.base, 'GET', '/api/products?limit=1');
    expect(r.headers['cache-control']).toBe('no-store');
    expect(r.headers['cross-origin-resource-policy']).toBe('same-origin');
    expect(r.headers['x-content-type-options']).toBe('nosniff');
    expect(r.headers['access-control-allow-origin']).toBeUndefined();
  });
  it('cannot tell the stand-in market how to behave either', async () => {
    const base = `http://127.0.0.1:${(house.market.server.address() as { port: number }).port}`;
    for (const headers of [
      { Origin: 'http://pages.example' },
      { 'Sec-Fetch-Site': 'cross-site' },
      { Host: 'evil.example' },
    ] as Record<string, string>[]) {
      const r = await ask(base, 'POST', '/_control/mood', headers, '{"slowMs":90000}');
      expect(r.status).toBe(403);
    }
    expect(house.market.moods.slowMs).toBe(0);
  });
});

describe('a line that breaks', () => {
  const head = (length: number) =>
    `POST /api/imports HTTP/1.1\r\nHost: ${host}\r\nContent-Type: multipart/form-data; boundary=x\r\nContent-Length: ${length}\r\n\r\n`;
  const part = '--x\r\nContent-Disposition: form-data; name="file"; filename="half.csv"\r\n\r\nSKU,Title\r\nA-1,';
  it('in the middle of an upload ends nothing and leaves nothing behind', async () => {
    const unheard: unknown[] = [];
    const note = (e: unknown) => unheard.push(e);
    process.on('unhandledRejection', note).on('uncaughtException', note);
    for (const bytes of [head(90), head(500) + part, head(500) + '--x\r\nContent-Dis', head(part.length) + part])
      for (let i = 0; i < 4; i++) await breakOff(house.base, bytes);
    await until(
      () => house.rows<{ n: number }>(`select count(*) as n from files where name = 'half.csv'`),
      (r) => r[0]!.n === 0,
    );
    expect((await house.call('GET', '/health')).status).toBe(200);
    process.off('unhandledRejection', note).off('uncaughtException', note);
    expect(unheard).toEqual([]);
  });
  it('is told to a sender that is still there', async () => {
    const r = await ask(
      house.base,
      'POST',
      '/api/imports',
      { 'Content-Type': 'multipart/form-data; boundary=x', 'Content-Length': String(part.length) },
      part,
    );
    expect(r.status).toBe(400);
    expect(JSON.parse(r.text)).toMatchObject({ message: 'The file broke off on the way; nothing of it was kept.' });
  });
});

describe('wrong requests', () => {
  it.each([
    ['GET', '/api/imports/1.5', undefined, 'id must be a whole number.'],
    ['GET', '/api/imports/1e30', undefined, 'id may have at most 9,007,199,254,740,991.'],
    ['GET', '/api/products?sort=__proto__', undefined, /^The order is the key of a field, such as sku, title/],
    ['GET', '/api/products?sort=constructor', undefined, /^The catalog has no field “constructor”/],
    ['GET', '/api/products?sort=fact.colour%27--', undefined, /^The order is the key of a field/],
    ['GET', '/api/products?lacks=constructor', undefined, /^lacks must be empty or “gtin”/],
    ['GET', '/api/products?limit=5000', undefined, 'limit may have at most 1,000.'],
    ['GET', '/api/markets/%00/plan', undefined, /holds a zero character, which no text may\.$/],
    ['GET', `/api/products?search=${'x'.repeat(301)}`, undefined, 'search may have at most 300 characters.'],
    ['PATCH', '/api/products', '{"cells":[]}', 'cells must have at least 1 entry.'],
    ['PATCH', '/api/products', '{"cells":[{"id":"1"}]}', 'cells.0.id must be a number.'],
    ['POST', '/api/products', '{"sku":"A\\ud800","title":"x"}', /holds half of a character/],
    [
      'PUT',
      '/api/markets/quillhaven/rulebook',
      `{"a":${'['.repeat(5000)}${']'.repeat(5000)}}`,
      /nested more than 64 levels/,
    ],
    ['POST', '/api/markets/quillhaven/dispatches', '{"operation":"price","key":"a\\r\\nX: y-12"}', /^A key is 8 to 80/],
  ])('%s %s is refused in our words', async (method, path, body, message) => {
    const r = await ask(house.base, method, path, body === undefined ? {} : json, body);
    expect(r.status).toBe(400);
    expect((JSON.parse(r.text) as { message: string }).message).toMatch(message);
  });
  it('in another form than JSON are refused as that', async () => {
    for (const type of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data; boundary=x'])
      expect((await ask(house.base, 'PATCH', '/api/products', { 'Content-Type': type }, patch)).status, type).toBe(415);
    expect((await ask(house.base, 'POST', '/api/imports', { 'Content-Type': 'multipart/form-data' }, 'x')).status).toBe(
      415,
    );
  });
  it('by the thousand never end in an error of ours, and are never worded by a validator', async () => {
    const random = startRandom(20261125);
    const seen = new Map<number, number>();
    for (let i = 0; i < 1200; i++) {
      const q = makeHostileRequest(random);
      const r = await ask(house.base, q.method, q.path, q.headers, q.body);
      seen.set(r.status, (seen.get(r.status) ?? 0) + 1);
      expect(
        r.status,
        `${i} ${q.about}: ${q.method} ${q.path.slice(0, 200)} ${(q.body ?? '').slice(0, 300)} → ${r.text.slice(0, 300)}`,
      ).not.toBe(500);
      if (r.status >= 400)
        expect(r.text, `${i} ${q.about}`).not.toMatch(
          /Invalid (input|option|type)|Expected|Unrecognized|ZodError|Too (big|small)/,
        );
    }
    // Not everything is refused: the generator reaches the handlers.
    expect(seen.get(200) ?? 0).toBeGreaterThan(150);
    expect(seen.get(400) ?? 0).toBeGreaterThan(250);
    expect((await house.call('GET', '/health')).body).toMatchObject({ ready: true });
  });
});

import type { Person } from '@basileus/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readPerson } from '../http/person';
import { type House, openHouse } from '../tests/house';

describe('the name of a request', () => {
  it.each([
    [undefined, 'Catalog desk'],
    ['', 'Catalog desk'],
    ['Ines Wharton', 'Ines Wharton'],
    ['%C3%85sa%20Lund', 'Åsa Lund'],
    ['%D9%85%D9%86%D9%89', 'منى'],
    // What encodes nothing is part of a name.
    ['100 %', '100 %'],
    ['  Ines%09%0D%0AWharton ', 'Ines Wharton'],
    ['x'.repeat(90), 'x'.repeat(80)],
    // Nobody signs for the application.
    ['basileus', 'Catalog desk'],
  ])('is read from %j', (head, name) => {
    expect(readPerson(head)).toBe(name);
  });
});

describe('people', () => {
  let house: House;
  beforeAll(async () => {
    house = await openHouse('people_test', { size: 5, worker: false });
  });
  afterAll(() => house.close());
  const list = async () => (await house.call<{ rows: Person[] }>('GET', '/people')).body.rows;
  const as = (name: string, method: string, path: string, body?: unknown) =>
    fetch(`${house.base}/api${path}`, {
      method,
      headers: { 'Content-Type': 'application/json', 'X-Person': encodeURIComponent(name) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  const titles = async (by: string, path = '/change-sets') =>
    (await house.call<{ total: number; rows: { actor: string }[] }>('GET', `${path}?by=${encodeURIComponent(by)}`))
      .body;

  it('begin with the desk, which stays', async () => {
    const [desk, ...others] = await list();
    expect([desk, others]).toMatchObject([{ name: 'Catalog desk', isHere: true }, []]);
    const refused = await house.call<{ message: string; remedy: string }>('DELETE', `/people/${desk!.id}`);
    expect([refused.status, refused.body.message, refused.body.remedy]).toEqual([
      409,
      '“Catalog desk” signs for whoever has chosen no name.',
      'Leave it; it needs nobody.',
    ]);
  });
  it('sign what they do, and are found by it', async () => {
    const added = await house.call<Person>('POST', '/people', { name: '  Åsa   Lund ' });
    expect(added.body).toMatchObject({ name: 'Åsa Lund', isHere: true, last: null });
    const [p] = await house.rows<{ id: number; brand: string }>('select id, brand from products limit 1');
    const cell = { id: p!.id, field: 'brand', before: p!.brand, after: 'Pellow' };
    expect((await as('Åsa Lund', 'PATCH', '/products', { cells: [cell] })).status).toBe(200);
    await house.call('PATCH', '/products', { cells: [{ ...cell, before: 'Pellow', after: p!.brand }] });
    expect((await titles('Åsa Lund')).rows.map((r) => r.actor)).toEqual(['Åsa Lund']);
    expect((await titles('Åsa Lund')).total).toBe(1);
    const everybody = await titles('');
    expect(new Set(everybody.rows.map((r) => r.actor))).toEqual(new Set(['Åsa Lund', 'Catalog desk']));
    expect(everybody.total).toBe(everybody.rows.length);
    const log = await titles('Åsa Lund', '/history');
    expect([log.total, log.rows.map((r) => r.actor)]).toEqual([1, ['Åsa Lund']]);
    expect(await titles('Nobody', '/history')).toEqual({ total: 0, rows: [] });
    expect((await list()).find((q) => q.name === 'Åsa Lund')!.last).not.toBeNull();
  });
  it.each([
    [{ name: 'ÅSA LUND' }, 409, '“ÅSA LUND” is here already.'],
    [{ name: 'Basileus' }, 409, '“Basileus” signs what the application does by itself.'],
    [{ name: '   ' }, 400, undefined],
    [{ name: 'x'.repeat(81) }, 400, undefined],
  ])('are refused as %j', async (body, status, message) => {
    const before = await list();
    const answer = await house.call<{ message: string }>('POST', '/people', body);
    expect(answer.status).toBe(status);
    if (message !== undefined) expect(answer.body.message).toBe(message);
    expect(await list()).toEqual(before);
  });
  it('who leave stay signed where they have done something, and may come back', async () => {
    const { body: brief } = await house.call<Person>('POST', '/people', { name: 'Brief Visitor' });
    const lund = (await list()).find((p) => p.name === 'Åsa Lund')!;
    for (const { id } of [brief, lund]) expect((await house.call('DELETE', `/people/${id}`)).status).toBe(200);
    expect((await house.call('DELETE', `/people/${lund.id}`)).status).toBe(404);
    expect((await list()).map((p) => [p.name, p.isHere])).toEqual([
      ['Catalog desk', true],
      ['Åsa Lund', false],
    ]);
    expect((await titles('Åsa Lund')).total).toBe(1);
    // The name as it was, however it is spelled now: what it has signed is found by it.
    expect((await house.call<Person>('POST', '/people', { name: 'åsa lund' })).body).toMatchObject({
      id: lund.id,
      name: 'Åsa Lund',
      isHere: true,
    });
    const said = (await house.call<{ rows: { fact: { is: string; how?: string } }[] }>('GET', '/history')).body.rows;
    expect(said.filter((r) => r.fact.is === 'person-said').map((r) => r.fact.how)).toEqual([
      'came',
      'left',
      'left',
      'came',
      'came',
    ]);
  });
});

// A new version of a rulebook that calls things otherwise: what people said, typed and had accepted goes along.
import type { FieldRow } from '@basileus/contract';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('carry_test', { size: 150 });
});
afterAll(() => house.close());

const m = '/markets/quillhaven';
interface Named {
  key: string;
  was?: string[];
}
interface Loose {
  version: string;
  tree: Named[];
  attributes: Named[];
  lists: { find: { slots: { facts: Record<string, unknown> } } };
  codeLists: Record<string, { entries: { code: string; was?: string[] }[] }>;
}
/** The rulebook with one attribute, one leaf, one node above it and two codes called otherwise. */
function renamed(): Loose {
  const names: Readonly<Record<string, string>> = {
    castiron: 'cast_iron',
    frying_pans: 'skillets',
    pans: 'flat_pans',
    gas: 'gas_flame',
  };
  const text = JSON.stringify(quillhavenDocument, (k, v: unknown) => {
    if (typeof v !== 'string') return v;
    return k === 'attribute' && v === 'material' ? 'made_of' : (names[v] ?? v);
  });
  const d = JSON.parse(text) as Loose;
  d.version = '2026.12';
  const { facts } = d.lists.find.slots;
  facts['made_of'] = facts['material'];
  delete facts['material'];
  const material = d.attributes.find((a) => a.key === 'material')!;
  Object.assign(material, { key: 'made_of', was: ['stuff', 'material'] });
  d.tree.find((n) => n.key === 'skillets')!.was = ['frying_pans'];
  d.tree.find((n) => n.key === 'flat_pans')!.was = ['pans'];
  const entryOf = (code: string) =>
    Object.values(d.codeLists)
      .flatMap((l) => l.entries)
      .find((e) => e.code === code)!;
  entryOf('cast_iron').was = ['castiron'];
  entryOf('gas_flame').was = ['gas'];
  return d;
}

describe('a new version that calls things otherwise', () => {
  const pans = (category: string) =>
    house.rows<{
      id: number;
      overrides: Record<string, unknown>;
      details: Record<string, unknown> | null;
      planned: unknown;
    }>(
      `select l.id, l.overrides, l.accepted_details as details, l.planned from listings l join markets k on k.id = l.market_id
        where k.key = 'quillhaven' and l.category = ? order by l.id`,
      [category],
    );
  const finish = async (job: string) => {
    const [last] = await until(
      () => house.rows<{ state: string }>('select state from jobs where id = ?', [job]),
      (r) => r[0] !== undefined && ['done', 'failed'].includes(r[0].state),
    );
    expect(last!.state).toBe('done');
  };
  it('takes along categories, values that were typed and accepted, sources and codes, and sends nothing anew for it', async () => {
    await house.call('PUT', `${m}/fields/made`, { source: { is: 'nothing' } });
    await house.call('PUT', `${m}/fields/handle_kind`, { node: 'pans', source: { is: 'field', field: 'fact.size' } });
    await house.call('PUT', `${m}/fields/material`, { node: 'frying_pans', source: { is: 'text', text: 'castiron' } });
    await house.call('PUT', `${m}/values`, {
      node: 'pans',
      codes: [{ attribute: 'material', ours: 'Willow', theirs: 'castiron' }],
    });
    const [typed] = await pans('frying_pans');
    const material = async (id: number) =>
      (
        await house.rows<{ v: string | null }>(`select "values" ->> 'material' as v from listings where id = ?`, [id])
      )[0]!.v;
    await house.call('PATCH', `${m}/listings`, {
      cells: [{ id: typed!.id, field: 'material', before: await material(typed!.id), after: 'other' }],
    });
    // The shelf holds no pan of cast iron yet: one that does is as good.
    await house.rows(
      `update listings l set accepted_details = "values" - 'price' - 'quantity' where l.category = 'frying_pans' and l."values" ->> 'material' = 'castiron' returning id`,
    );
    const before = await pans('frying_pans');
    expect(before.find((l) => l.id === typed!.id)!.overrides).toMatchObject({ material: 'other' });
    expect(before.filter((l) => l.details?.['material'] === 'castiron').length).toBeGreaterThan(2);
    expect(
      before.filter((l) => (l.overrides['hob_kinds'] as string[] | undefined)?.includes('gas')).length,
    ).toBeGreaterThan(2);

    // Of what the shelf holds nothing is due because it is called otherwise.
    const due = () =>
      house.rows<{ op: string | null; held: number; n: number }>(
        `select l.planned -> 0 ->> 'operation' as op, (count(*) filter (where l.accepted_details ?| array['material', 'made_of']))::int as held, count(*)::int as n
          from listings l join markets k on k.id = l.market_id
          where k.key = 'quillhaven' and l.category not in ('frying_pans', 'skillets') group by 1 order by 1`.replace(
          '?|',
          '\\?|',
        ),
      );
    const dueBefore = await due();
    expect(dueBefore.reduce((n, d) => n + d.held, 0)).toBeGreaterThan(5);
    const look = await house.call<{ changes: { area: string; kind: string; says: string }[] }>(
      'POST',
      `${m}/rulebook/compare`,
      renamed(),
    );
    const says = look.body.changes.map((c) => c.says);
    expect(says).toContain(
      'Frying pans is called skillets and no more frying_pans; what was said and typed goes along.',
    );
    expect(says).toContain('Material is called made_of and no more material; what was said and typed goes along.');
    expect(look.body.changes.filter((c) => c.kind !== 'changed')).toEqual([]);

    const put = await house.call<{ job: string }>('PUT', `${m}/rulebook`, renamed());
    expect(put.status).toBe(200);
    await finish(put.body.job);

    const rename = (values: Record<string, unknown>) =>
      Object.fromEntries(
        Object.entries(values).map(([k, v]) => [
          k === 'material' ? 'made_of' : k,
          k === 'material' && v === 'castiron'
            ? 'cast_iron'
            : k === 'hob_kinds'
              ? (v as string[]).map((c) => (c === 'gas' ? 'gas_flame' : c))
              : v,
        ]),
      );
    expect(await pans('frying_pans')).toEqual([]);
    const after = await pans('skillets');
    expect(after.map(({ id, overrides, details }) => ({ id, overrides, details }))).toEqual(
      before.map(({ id, overrides, details }) => ({
        id,
        overrides: rename(overrides),
        details: details && rename(details),
      })),
    );
    expect(
      await house.rows(
        `select node, attribute, source from attribute_sources where attribute in ('made_of', 'material', 'handle_kind') order by 1`,
      ),
    ).toEqual([
      { node: 'flat_pans', attribute: 'handle_kind', source: { is: 'field', field: 'fact.size' } },
      { node: 'skillets', attribute: 'made_of', source: { is: 'text', text: 'cast_iron' } },
    ]);
    expect(await due()).toEqual(dueBefore);
    expect(await house.rows(`select node, attribute, theirs from correspondences where ours = 'Willow'`)).toEqual([
      { node: 'flat_pans', attribute: 'made_of', theirs: 'cast_iron' },
    ]);
    expect(
      await house.rows(`select distinct theirs from correspondences c join markets k on k.id = c.market_id
        where k.key = 'quillhaven' and c.kind = 'category' and c.ours = 'Frying pans'`),
    ).toEqual([{ theirs: 'skillets' }]);
    const rows = (await house.call<{ rows: FieldRow[] }>('GET', `${m}/fields?node=skillets`)).body.rows;
    expect(rows.find((r) => r.attribute === 'made_of')!.said).toEqual({
      node: 'skillets',
      source: { is: 'text', text: 'cast_iron' },
    });
  });
  it('leaves what was said of a name that stays, where two become one', async () => {
    const d = renamed();
    d.version = '2026.12.2';
    d.tree = d.tree.filter((n) => n.key !== 'woks' && n.key !== 'crepe_pans');
    Object.assign(
      d.tree.find((n) => n.key === 'skillets')!,
      { was: ['frying_pans', 'woks', 'crepe_pans'] },
    );
    await house.call('PUT', `${m}/fields/made_of`, { node: 'woks', source: { is: 'nothing' } });
    await house.call('PUT', `${m}/fields/capacity`, { node: 'woks', source: { is: 'nothing' } });
    // Both old names say something of it: that of the first of them counts.
    await house.call('PUT', `${m}/fields/capacity`, {
      node: 'crepe_pans',
      source: { is: 'field', field: 'fact.size' },
    });
    for (const [node, theirs] of [
      ['woks', 'stainless'],
      ['crepe_pans', 'alu'],
    ])
      await house.call('PUT', `${m}/values`, { node, codes: [{ attribute: 'made_of', ours: 'Osier', theirs }] });
    const woks = (await pans('woks')).length + (await pans('crepe_pans')).length;
    expect(woks).toBeGreaterThan(0);
    const skillets = (await pans('skillets')).length;
    const put = await house.call<{ job: string; message?: string }>('PUT', `${m}/rulebook`, d);
    expect(put.body.message).toBeUndefined();
    await finish(put.body.job);
    expect((await pans('skillets')).length).toBe(skillets + woks);
    expect(
      await house.rows(
        `select node, attribute, source ->> 'is' as is from attribute_sources where node in ('woks', 'crepe_pans', 'skillets') order by 1, 2`,
      ),
    ).toEqual([
      // It counts for nothing any more, as what is said of woks below.
      { node: 'crepe_pans', attribute: 'capacity', is: 'field' },
      { node: 'skillets', attribute: 'capacity', is: 'nothing' },
      { node: 'skillets', attribute: 'made_of', is: 'text' },
      { node: 'woks', attribute: 'made_of', is: 'nothing' },
    ]);
    expect(await house.rows(`select node, theirs from correspondences where ours = 'Osier' order by 1`)).toEqual([
      { node: 'crepe_pans', theirs: 'alu' },
      { node: 'skillets', theirs: 'stainless' },
    ]);
  });
});

// Fields of the house as people add, change and remove them; the languages and currencies that it writes beside its own.
import type { changeField, createField, readFieldUse } from '@basileus/contract';
import { listReadBy, sourceSchema, type Value } from '@basileus/core/listing';
import {
  compileFields,
  fixedFields,
  findOwnFieldFault,
  findValueFault,
  makeFieldKey,
  type OwnField,
  type OwnFieldFault,
  type OwnFields,
} from '@basileus/core/product';
import { plural, say } from '@basileus/core/text';
import type { z } from 'zod';
import { type Db, parseColumn, rowsOf } from '../database';
import { announce } from '../events';
import {
  addFacets,
  countFacts,
  deleteFacet,
  deleteField,
  insertField,
  loadOwnFields,
  storeFieldOrder,
  updateField,
} from '../fields';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { openChangeSet } from '../products';
import { enqueue } from '../jobs';
import { refuseStrangers } from './categories';

const lockFields = (db: Db): Promise<unknown> => db.raw(`select pg_advisory_xact_lock(hashtext('own-fields'))`);

function find(own: OwnFields, key: string): OwnField {
  const found = own.fields.find((f) => f.key === key);
  if (!found) throw new AppError('not-found', say`We have no field “${key}”.`);
  return found;
}

/** Names of the facts in which a field is kept: one, or one for each language or currency as well. */
export const listFacts = (own: OwnFields, f: OwnField): string[] =>
  compileFields(own)
    .all.map((x) => x.key)
    .filter((k) => k === `fact.${f.key}` || k.startsWith(`fact.${f.key}@`))
    .map((k) => k.slice('fact.'.length));

const remedies: Readonly<Record<OwnFieldFault['is'], string>> = {
  taken: 'Give another name.',
  'not-a-measure': 'Only a measure has a unit; leave it empty.',
  'unknown-unit': 'Write a unit such as cm, kg, ml or W.',
  'not-a-text': 'Only texts and lists have a list of values; leave it empty.',
  'not-spoken': 'Only texts and lists have a language.',
  'not-money': 'Only money has a currency.',
  'two-languages': 'It is either in one language, or in each.',
};

async function refuseFault(db: Db, field: OwnField, own: OwnFields): Promise<void> {
  const fault = findOwnFieldFault(field, compileFields(own));
  if (fault)
    throw new AppError(
      fault.is === 'taken' ? 'conflict' : 'bad-input',
      fault.is === 'taken'
        ? say`“${fault.name}” is what the field ${fault.other} is called already.`
        : say`The field ${field.label} cannot be so.`,
      { field: fault.part, remedy: remedies[fault.is] },
    );
  await refuseStrangers(db, field.categories);
}

/** Adds a field behind the others; its key is made of its label. */
export const addField = (db: Db, said: z.output<typeof createField.body>, actor: string): Promise<OwnField> =>
  db.transaction(async (tx) => {
    await lockFields(tx);
    const own = await loadOwnFields(tx);
    // A fact of an item may bear a name that no field has any more; a new field must not show it as its own.
    const taken = new Set([...fixedFields, ...own.fields].map((f) => f.key));
    let key = makeFieldKey(said.label, taken);
    while ((await countFacts(tx, [key])).size > 0) key = makeFieldKey(said.label, taken.add(key));
    const field: OwnField = { ...said, key };
    await refuseFault(tx, field, own);
    await insertField(tx, field);
    await recordHistory(tx, actor, { is: 'own-said', what: 'field', name: field.label, how: 'added', to: null });
    await announce(tx, { topic: 'own' });
    return field;
  });

/** Changes what is said of a field; another kind only where all that items hold can stand in it. */
export const putField = (
  db: Db,
  key: string,
  said: z.output<typeof changeField.body>,
  actor: string,
): Promise<OwnField> =>
  db.transaction(async (tx) => {
    await lockFields(tx);
    const own = await loadOwnFields(tx);
    const before = find(own, key);
    const field: OwnField = { ...before, ...said };
    await refuseFault(tx, field, own);
    if (field.kind !== before.kind) await refuseUnheld(tx, own, field);
    await updateField(tx, field);
    await recordHistory(tx, actor, { is: 'own-said', what: 'field', name: field.label, how: 'changed', to: null });
    await announce(tx, { topic: 'own' });
    return field;
  });

/** Refuses another kind for which something that items hold is no value. */
async function refuseUnheld(db: Db, own: OwnFields, field: OwnField): Promise<void> {
  const after = { ...own, fields: own.fields.map((f) => (f.key === field.key ? { ...field, values: [] } : f)) };
  const book = compileFields(after);
  let items = 0,
    example: { value: Value; sku: string } | undefined;
  for (const name of listFacts(own, field)) {
    const known = book.get(`fact.${name}`);
    if (!known) continue;
    const held = await rowsOf<{ value: Value; sku: string; n: number }>(
      db,
      `select facts -> ? as value, min(sku) as sku, count(*)::int as n from products where facts -> ? is not null group by 1`,
      [name, name],
    );
    for (const h of held) {
      if (findValueFault(known, h.value) === undefined) continue;
      items += h.n;
      example ??= h;
    }
  }
  if (example)
    throw new AppError(
      'conflict',
      say`${plural(items, 'item holds', 'items hold')} something in ${field.label} that cannot stand there then, such as “${String(example.value)}” of ${example.sku}.`,
      { field: 'kind', remedy: say`Change those first, or add another field.` },
    );
}

export async function orderFields(db: Db, keys: readonly string[]): Promise<void> {
  await db.transaction(async (tx) => {
    await storeFieldOrder(tx, keys);
    await announce(tx, { topic: 'own' });
  });
}

/** How many items hold something in a field, and which markets are told by their table of fields to take it. */
export async function loadUse(db: Db, key: string): Promise<z.output<typeof readFieldUse.response>> {
  const own = await loadOwnFields(db);
  const facts = listFacts(own, find(own, key));
  const [held] = await rowsOf<{ n: number }>(
    db,
    `select count(*)::int as n from products p where exists (select 1 from unnest(?::text[]) k where p.facts -> k is not null)`,
    [facts],
  );
  const names = new Set(facts.map((f) => `fact.${f}`)),
    book = compileFields(own);
  const said = await rowsOf<{ name: string; source: unknown }>(
    db,
    `select m.name, s.source from attribute_sources s join markets m on m.id = s.market_id
      where s.source ->> 'is' in ('field', 'formula') order by 1`,
  );
  const markets = said.flatMap(({ name, source }) => {
    const read = listReadBy(parseColumn('attribute_sources.source', sourceSchema, source), book);
    return read.some((field) => names.has(field)) ? [{ name }] : [];
  });
  return { items: held?.n ?? 0, markets: [...new Set(markets.map((m) => m.name))] };
}

/** Removes a field that no market is told to take; what items hold in it is emptied first, by a job. */
export const dropField = (db: Db, key: string, actor: string): Promise<{ job: string | null; items: number }> =>
  db.transaction(async (tx) => {
    await lockFields(tx);
    const { label } = find(await loadOwnFields(tx), key);
    const { items, markets } = await loadUse(tx, key);
    if (markets.length > 0)
      throw new AppError('conflict', say`${label} is what ${markets.join(say` and `)} takes for a field of theirs.`, {
        field: 'key',
        remedy: say`Choose another field there first, under Prepare, Fields.`,
      });
    if (items === 0) {
      await endField(tx, key, label, actor);
      return { job: null, items };
    }
    const title = `Emptied: ${label}`;
    const changeSet = await openChangeSet(tx, { title, actor, target: 'products', marketId: null });
    const job = await enqueue(tx, {
      kind: 'empty-field',
      title: `Emptying ${label}`,
      payload: { key, label, changeSet, actor },
      once: `empty-field-${key}`,
      link: '/all/history',
      cancellable: true,
    });
    return { job, items };
  });

/** Takes a field away that holds nothing any more. */
export async function endField(db: Db, key: string, label: string, actor: string): Promise<void> {
  await deleteField(db, key);
  await recordHistory(db, actor, { is: 'own-said', what: 'field', name: label, how: 'removed', to: null });
  await announce(db, { topic: 'own' });
}

type Facet = { kind: 'language' | 'currency'; code: string };

/** Writes a further language or currency from now on; answers whether it is new. */
export const addOwnFacet = (db: Db, { kind, code }: Facet, actor: string): Promise<{ added: boolean }> =>
  db.transaction(async (tx) => {
    const added = (await addFacets(tx, kind, [code])).length > 0;
    if (added) await recordHistory(tx, actor, { is: 'own-said', what: kind, name: code, how: 'added', to: null });
    await announce(tx, { topic: 'own' });
    return { added };
  });

/** Gives a language or currency up in which no item holds anything. */
export const dropFacet = (db: Db, { kind, code }: Facet, actor: string): Promise<void> =>
  db.transaction(async (tx) => {
    await lockFields(tx);
    const own = await loadOwnFields(tx);
    const isThere = (kind === 'language' ? own.languages : own.currencies).includes(code);
    if (!isThere) throw new AppError('not-found', say`We do not write ${code}.`);
    const book = compileFields(own);
    const facts = book.all.filter((f) => (kind === 'language' ? f.language : f.currency) === code);
    const held = await countFacts(
      tx,
      facts.map((f) => f.key.slice('fact.'.length)),
    );
    const [first] = held;
    if (first)
      throw new AppError(
        'conflict',
        `${plural(first[1], 'item holds', 'items hold')} a ${book.labelOf(`fact.${first[0]}`)}.`,
        { field: 'code', remedy: say`Empty what items hold in it first.` },
      );
    await deleteFacet(tx, kind, code);
    await recordHistory(tx, actor, { is: 'own-said', what: kind, name: code, how: 'removed', to: null });
    await announce(tx, { topic: 'own' });
  });

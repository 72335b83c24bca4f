// Bulk changes that are kept, to be done again on whatever then matches: by hand, or by the clock.
import type { BulkShape, RecipeShape } from '@basileus/contract';
import {
  changeSteps,
  type ChangeStep,
  findNextTime,
  prepareChange,
  type Schedule,
  scheduleSchema,
} from '@basileus/core/change';
import { findClauseProblem, type Which, whichSchema } from '@basileus/core/choose';
import type { FieldBook } from '@basileus/core/product';
import { loadWideFields, toWhichSql } from '../choose';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { defineClock } from '../jobs';
import { beginBulk } from './apply';
import { readySteps } from './meant';
import { say } from '@basileus/core/text';

interface Row {
  id: number;
  name: string;
  which: unknown;
  steps: unknown;
  schedule: unknown;
  next_at: Date | null;
  ran_at: Date | null;
  last_items: number | null;
  last_set: number | null;
  actor: string;
}

/** What is wrong with a recipe by now: its fields were there when it was kept. */
function findTrouble(which: Which, steps: readonly ChangeStep[], book: FieldBook): RecipeShape['trouble'] {
  const made = prepareChange(steps, book);
  if (!made.ok) return { step: made.problem };
  for (const c of [...which.clauses, ...which.also]) {
    const clause = findClauseProblem(c, book);
    if (clause) return { clause };
  }
  return null;
}

function fromRow(r: Row, book: FieldBook): RecipeShape {
  const which = whichSchema.parse(r.which),
    steps = changeSteps.parse(r.steps);
  return {
    id: r.id,
    name: r.name,
    which,
    steps,
    schedule: scheduleSchema.nullable().parse(r.schedule),
    actor: r.actor,
    nextAt: r.next_at?.toISOString() ?? null,
    ranAt: r.ran_at?.toISOString() ?? null,
    lastItems: r.last_items,
    lastSet: r.last_set,
    trouble: findTrouble(which, steps, book),
  };
}

export async function loadRecipes(db: Db): Promise<RecipeShape[]> {
  const book = await loadWideFields(db);
  return (await rowsOf<Row>(db, 'select * from recipes order by lower(name)')).map((r) => fromRow(r, book));
}

async function loadRecipe(db: Db, id: number): Promise<RecipeShape> {
  const row = await rowOf<Row>(db, 'select * from recipes where id = ? for update', [id]);
  if (!row) throw new AppError('not-found', say`There is no recipe ${id}.`);
  return fromRow(row, await loadWideFields(db));
}

/** Adds a recipe, or changes one. Refuses what cannot be done, and a name that another has. */
export function putRecipe(
  db: Db,
  id: number | null,
  { name, which, steps, schedule }: BulkShape & { name: string; schedule: Schedule | null },
  actor: string,
): Promise<RecipeShape> {
  return db.transaction(async (tx) => {
    const book = await loadWideFields(tx);
    readySteps(steps, book);
    await toWhichSql(tx, which, book);
    if (id !== null) await loadRecipe(tx, id);
    if (await rowOf(tx, 'select 1 as x from recipes where name = ? and id is distinct from ?', [name, id]))
      throw new AppError('conflict', say`Another recipe is called “${name}”.`, {
        field: 'name',
        remedy: say`Give another name.`,
      });
    const said = [
      name,
      JSON.stringify(which),
      JSON.stringify(steps),
      schedule === null ? null : JSON.stringify(schedule),
      schedule === null ? null : findNextTime(schedule, new Date()),
    ];
    const row = (await rowOf<Row>(
      tx,
      id === null
        ? `insert into recipes (name, which, steps, schedule, next_at, actor) values (?, ?::jsonb, ?::jsonb, ?::jsonb, ?, ?) returning *`
        : `update recipes set name = ?, which = ?::jsonb, steps = ?::jsonb, schedule = ?::jsonb, next_at = ?
            where id = ? returning *`,
      [...said, id ?? actor],
    ))!;
    if (schedule !== null) await clock.wake(tx);
    await announce(tx, { topic: 'recipes' });
    return fromRow(row, book);
  });
}

export const dropRecipe = (db: Db, id: number): Promise<void> =>
  db.transaction(async (tx) => {
    await loadRecipe(tx, id);
    await tx.raw('delete from recipes where id = ?', [id]);
    await announce(tx, { topic: 'recipes' });
  });

/** Does a recipe on whatever matches now. */
async function runWithin(tx: Db, recipe: RecipeShape, actor: string): Promise<{ changeSet: number; job: string }> {
  const { changeSet, job } = await beginBulk(tx, { ...recipe, title: recipe.name }, actor, recipe.id);
  await tx.raw('update recipes set ran_at = now() where id = ?', [recipe.id]);
  await announce(tx, { topic: 'recipes' });
  return { changeSet, job };
}
/** Does what somebody has looked at, which may be a recipe. Throws where there is no such recipe. */
export async function startLooked(
  tx: Db,
  { recipe, ...change }: BulkShape & { title: string; recipe: number | null },
  actor: string,
): Promise<{ changeSet: number; job: string }> {
  if (recipe !== null) {
    await loadRecipe(tx, recipe);
    await tx.raw('update recipes set ran_at = now() where id = ?', [recipe]);
  }
  const { changeSet, job } = await beginBulk(tx, change, actor, recipe);
  return { changeSet, job };
}
export const runRecipeNow = (db: Db, id: number, actor: string): Promise<{ changeSet: number; job: string }> =>
  db.transaction(async (tx) => runWithin(tx, await loadRecipe(tx, id), actor));

/** Does one recipe that is due, and says when it is due again; answers false where none is. */
async function runDue(tx: Db, now: Date): Promise<boolean> {
  const row = await rowOf<Row>(
    tx,
    'select * from recipes where next_at <= ? order by next_at, id limit 1 for update skip locked',
    [now],
  );
  if (!row) return false;
  const recipe = fromRow(row, await loadWideFields(tx));
  await tx.raw('update recipes set next_at = ? where id = ?', [findNextTime(recipe.schedule!, now), recipe.id]);
  try {
    // What was begun before it was refused is taken back, and no more than that.
    await tx.transaction(async (inner) => {
      const { changeSet } = await runWithin(inner, recipe, recipe.actor);
      await inner.raw('update bulk_changes set by_clock = true where change_set_id = ?', [changeSet]);
    });
  } catch (e) {
    if (!(e instanceof AppError)) throw e;
    await tx.raw('update recipes set ran_at = now(), last_items = null, last_set = null where id = ?', [recipe.id]);
    await announce(tx, { topic: 'recipes' });
  }
  return true;
}

const clock = defineClock('recipe-clock', 'recipes', runDue);
export const recipeClockJob = clock.job;
/** The clock looks when the next recipe is due. */
export const wakeClock = clock.wake;

// Bringing a market's blank template, and forgetting it.
import type { Db } from '../database';
import { announce } from '../events';
import { dropFile } from '../files';
import { recordHistory } from '../history';
import type { Threads } from '../jobs';
import { type Brought, dropTemplate, keepTemplate, loadMarket, type Market } from '../markets';

const mostJudgeSeconds = 60;

/** Judges an uploaded template in a thread and keeps it; what is refused leaves nothing behind. */
export async function takeTemplate(
  db: Db,
  threads: Threads,
  brought: Brought,
  actor: string,
): Promise<{ sheet: string; firstRow: number }> {
  try {
    const market = await loadMarket(db, brought.market);
    const judged = await threads.ask<{ sheet: string; firstRow: number }>('judge-template', brought, mostJudgeSeconds);
    await keepTemplate(db, market, brought, judged);
    await note(db, market, actor);
    return { sheet: judged.sheet, firstRow: judged.firstRow + 1 };
  } catch (error) {
    await dropFile(db, brought.file);
    throw error;
  }
}

/** Forgets the template of a form. */
export async function forgetTemplate(db: Db, market: Market, form: string, actor: string): Promise<void> {
  await dropTemplate(db, market, form);
  await note(db, market, actor);
}

async function note(db: Db, market: Market, actor: string): Promise<void> {
  await recordHistory(db, actor, { is: 'market-changed', market: market.name, what: ['template'] });
  await announce(db, { topic: 'markets' });
}

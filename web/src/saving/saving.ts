// Saving what was typed: one change after the other, in the order in which they were made, again and again until the server
// has answered for each. Whatever tab is open does it; one at a time, by a lock that all tabs of the browser share.
import { patchListings, patchProducts } from '@basileus/contract';
import { type ListingFault, wordRowProblem } from '@basileus/core/change';
import type { CellFault } from '@basileus/core/product';
import type { QueryClient } from '@tanstack/react-query';
import { toast } from '../ui/messages';
import { call, CallError } from '../api/call';
import { whenAnswering } from '../api/live';
import { bookOf, fieldsQuery } from '../own/fields';
import { createQueue, type Unsaved, type UnsavedCell } from './queue';
import { createUndoLog } from './undo';
import { say } from '../ui/text';

export interface EditOutcome {
  applied: number;
  conflicts: { id: number; field: string }[];
  refused?: { id: number; sku: string; field: string; fault: CellFault | ListingFault }[];
}

export const queue = createQueue(window.localStorage);
const againAfterMs = 2000;
const log = createUndoLog();
const waiting = new Map<string, (outcome: EditOutcome | undefined) => void>();

let client: QueryClient | undefined,
  timer: ReturnType<typeof setTimeout> | undefined,
  isSending = false;

/** Begins with what an earlier window left unsaved. */
export function startSaving(with_: QueryClient): void {
  client = with_;
  window.addEventListener('storage', (e) => {
    if (e.key === 'basileus-unsaved') queue.readAgain();
  });
  window.addEventListener('online', sendSoon);
  whenAnswering(sendSoon);
  sendSoon();
}

/** Asks for what waits to be sent now, as when the server is known to answer again. */
export function sendSoon(): void {
  clearTimeout(timer);
  timer = setTimeout(() => void sendAll(), 0);
}

/** Saves cells that a person has changed; resolves when the server has answered, or with undefined where they were given up. */
export function saveCells(scope: string, cells: UnsavedCell[], title: string): Promise<EditOutcome | undefined> {
  const outcome = add(scope, cells, title, false);
  log.note(
    scope,
    outcome.then((o) => listMade(cells, o)),
  );
  return outcome;
}

function add(scope: string, cells: UnsavedCell[], title: string, isUndo: boolean): Promise<EditOutcome | undefined> {
  const id = crypto.randomUUID();
  queue.add({ id, scope, title, cells, isUndo, isLate: false });
  if (!queue.isKept())
    toast.warning(say`This is too much to be kept in the browser: leave the window open until it is saved.`);
  const done = new Promise<EditOutcome | undefined>((resolve) => waiting.set(id, resolve));
  sendSoon();
  return done;
}

/** The cells that a change truly made: neither refused nor changed by somebody else meanwhile. */
function listMade(cells: readonly UnsavedCell[], outcome: EditOutcome | undefined): readonly UnsavedCell[] {
  if (!outcome || outcome.applied === 0) return [];
  const bad = new Set([...outcome.conflicts, ...(outcome.refused ?? [])].map((c) => `${c.id}/${c.field}`));
  return cells.filter((c) => !bad.has(`${c.id}/${c.field}`) && !c.reset);
}

/** Forgets a change that is not saved. */
export function giveUp(id: string): void {
  settle(id, undefined);
}

/** Takes the last change of a scope back, or makes again what was taken back; undefined where there is none. */
export const turnBack = (scope: string, how: 'undo' | 'redo'): Promise<number> | undefined =>
  log[how](scope, async (cells) =>
    listMade(
      cells,
      await add(scope, cells, how === 'undo' ? say`Taken back in the table` : say`Made again in the table`, true),
    ),
  );

async function sendAll(): Promise<void> {
  if (isSending) return;
  isSending = true;
  try {
    // Without a lock, as on a page that is not served from this machine, two tabs may send the same; twice does no harm.
    const { locks } = navigator as { locks?: LockManager };
    if (locks) await locks.request('basileus-saving', sendEach);
    else await sendEach();
  } finally {
    isSending = false;
  }
}

async function sendEach(): Promise<void> {
  queue.readAgain();
  // One that the server cannot digest does not hold up the others; it stays, and is tried again with the next round.
  const passed = new Set<string>();
  for (;;) {
    const entry = queue.list().find((e) => !passed.has(e.id));
    if (!entry) return;
    passed.add(entry.id);
    try {
      const outcome = await send(entry);
      tell(entry, outcome);
      await refresh(entry.scope);
      settle(entry.id, outcome);
    } catch (error) {
      if (!(error instanceof CallError) || error.body.code === 'not-ready' || error.body.code === 'internal') {
        queue.markLate(entry.id);
        clearTimeout(timer);
        timer = setTimeout(() => void sendAll(), againAfterMs);
        if (error instanceof CallError && error.body.code === 'internal') continue;
        return;
      }
      toast.error(`${error.body.message} ${error.body.remedy ?? ''}`);
      settle(entry.id, undefined);
    }
  }
}

const send = ({ scope, cells, title }: Unsaved): Promise<EditOutcome> =>
  scope === 'products'
    ? call(patchProducts, { body: { cells, title } })
    : call(patchListings, { params: { market: scope.slice('listings:'.length) }, body: { cells, title } });

function tell(entry: Unsaved, outcome: EditOutcome): void {
  const { conflicts, refused = [] } = outcome;
  if (conflicts.length)
    toast.error(
      conflicts.length === 1
        ? say`A cell was changed by someone else meanwhile and left as it is.`
        : say`${conflicts.length} cells were changed by someone else meanwhile and left as they are.`,
    );
  const book = bookOf(client?.getQueryData(fieldsQuery.queryKey));
  for (const r of refused.slice(0, 3)) {
    const cell = entry.cells.find((c) => c.id === r.id && c.field === r.field);
    const place = cell?.at === undefined ? r.sku : say`${r.sku}, row ${cell.at}`;
    const labelOf = (key: string): string => cell?.label ?? book.labelOf(key);
    toast.error(
      `${place}: ${wordRowProblem({ field: r.field, value: cell?.after ?? null, fault: r.fault }, { ...book, labelOf })}`,
    );
  }
  if (refused.length > 3)
    toast.error(say`${refused.length - 3} more cells cannot hold what was given and stay as they were.`);
}

async function refresh(scope: string): Promise<void> {
  const keys = scope === 'products' ? ['products'] : ['listings', 'overview'];
  const known = client;
  if (known) await Promise.all(keys.map((k) => known.invalidateQueries({ queryKey: [k] }))).catch(() => undefined);
}

function settle(id: string, outcome: EditOutcome | undefined): void {
  queue.remove(id);
  waiting.get(id)?.(outcome);
  waiting.delete(id);
}

import { type Patch, reversePatch } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import { useCallback, useRef, useState } from 'react';
import { toast } from 'sonner';
import { CallError } from '../api/call';

export interface EditOutcome {
  applied: number;
  conflicts: { id: number; field: string }[];
  refused?: { id: number; field: string; says: string }[];
}
type Send = (
  cells: { id: number; field: string; before: Value | null; after: Value | null }[],
  title: string,
) => Promise<EditOutcome>;

/**
 * Edits of a table: shown at once, sent as patches, kept for undo. What the server refuses or finds changed by someone
 * else is taken back in the table and said.
 */
export function useEdits(send: Send, after: () => Promise<unknown> | void) {
  const overlay = useRef(new Map<string, Value | null>());
  const undoStack = useRef<Patch[]>([]);
  const [version, setVersion] = useState(0);
  const run = useCallback(
    async (patch: Patch, title: string, isUndo: boolean) => {
      for (const p of patch) overlay.current.set(`${p.row}\u0000${p.column}`, p.after);
      setVersion((v) => v + 1);
      try {
        const outcome = await send(
          patch.map((p) => ({ id: Number(p.row), field: p.column, before: p.before, after: p.after })),
          title,
        );
        if (outcome.conflicts.length)
          toast.error(
            `${outcome.conflicts.length === 1 ? 'A cell was' : `${outcome.conflicts.length} cells were`} changed by someone else meanwhile and left as they are.`,
          );
        for (const r of outcome.refused?.slice(0, 3) ?? []) toast.error(r.says);
        if (!isUndo && outcome.applied > 0) {
          const bad = new Set([...outcome.conflicts, ...(outcome.refused ?? [])].map((c) => `${c.id}/${c.field}`));
          undoStack.current.push(patch.filter((p) => !bad.has(`${p.row}/${p.column}`)));
        }
        await after();
      } catch (e) {
        toast.error(
          e instanceof CallError
            ? `${e.body.message} ${e.body.remedy ?? ''}`
            : 'The change could not be saved; nothing was changed.',
        );
      } finally {
        for (const p of patch) overlay.current.delete(`${p.row}\u0000${p.column}`);
        setVersion((v) => v + 1);
      }
    },
    [send, after],
  );
  const onPatch = useCallback(
    (patch: Patch) => run(patch, patch.length === 1 ? 'Edited a cell' : `Edited ${patch.length} cells`, false),
    [run],
  );
  const onUndo = useCallback(() => {
    const last = undoStack.current.pop();
    if (!last?.length) {
      toast('Nothing to take back here.');
      return;
    }
    void run(reversePatch(last), 'Taken back in the table', true).then(() => {
      toast(`Taken back: ${last.length} ${last.length === 1 ? 'cell' : 'cells'}.`);
    });
  }, [run]);
  const valueOf = useCallback((id: string, key: string, stored: Value | null): Value | null => {
    const k = `${id}\u0000${key}`;
    return overlay.current.has(k) ? (overlay.current.get(k) ?? null) : stored;
  }, []);
  return { onPatch, onUndo, valueOf, version };
}

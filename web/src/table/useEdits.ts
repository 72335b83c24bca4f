import type { Patch } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import { useCallback, useMemo, useSyncExternalStore } from 'react';
import { toast } from 'sonner';
import { overlayOf } from '../saving/queue';
import { queue, saveCells, takeBackLast } from '../saving/saving';

/**
 * Edits of a table: shown at once, saved one after the other, kept until the server has answered and for undo. What it
 * refuses or finds changed by someone else is taken back in the table and said. `scope` is `products`, or `listings:` and a
 * market.
 */
export function useEdits(scope: string) {
  const entries = useSyncExternalStore(queue.subscribe, queue.list);
  const overlay = useMemo(() => overlayOf(entries, scope), [entries, scope]);
  const onPatch = useCallback(
    (patch: Patch) => {
      const cells = patch.map((p) => ({
        id: Number(p.row),
        field: p.column,
        before: p.before,
        after: p.after,
        ...(p.at === undefined ? {} : { at: p.at }),
      }));
      void saveCells(scope, cells, '');
    },
    [scope],
  );
  const onUndo = useCallback(() => {
    const back = takeBackLast(scope);
    if (!back) {
      toast('Nothing to take back here.');
      return;
    }
    void back.then((outcome) => {
      if (outcome?.applied) toast(`Taken back: ${outcome.applied} ${outcome.applied === 1 ? 'cell' : 'cells'}.`);
    });
  }, [scope]);
  const valueOf = useCallback(
    (id: string, key: string, stored: Value | null): Value | null => {
      const over = overlay.get(`${id}/${key}`);
      return over ? over.value : stored;
    },
    [overlay],
  );
  const isUnsaved = useCallback((id: string, key: string) => overlay.get(`${id}/${key}`)?.isLate === true, [overlay]);
  return { onPatch, onUndo, valueOf, isUnsaved, version: overlay };
}

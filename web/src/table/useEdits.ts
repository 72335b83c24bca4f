import type { Patch } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import { useCallback, useMemo, useSyncExternalStore } from 'react';
import { toast } from '../ui/messages';
import { overlayOf } from '../saving/queue';
import { queue, saveCells, turnBack } from '../saving/saving';
import { plural, say } from '../ui/text';

/**
 * Edits of a table: shown at once, saved one after the other, kept until the server has answered and for undo. What it
 * refuses or finds changed by someone else is taken back in the table and said. `scope` is `products`, or `listings:` and a
 * market; `labelOf` says what a column is called where the fields of the house do not.
 */
export function useEdits(scope: string, labelOf?: (key: string) => string) {
  const entries = useSyncExternalStore(queue.subscribe, queue.list);
  const overlay = useMemo(() => overlayOf(entries, scope), [entries, scope]);
  const onPatch = useCallback(
    (patch: Patch) => {
      void saveCells(
        scope,
        patch.map(({ row, ...change }) => ({
          id: Number(row),
          ...change,
          ...(labelOf ? { label: labelOf(change.field) } : {}),
        })),
        '',
      );
    },
    [scope, labelOf],
  );
  const onTurn = useCallback(
    (how: 'undo' | 'redo') => {
      const turned = turnBack(scope, how);
      if (!turned) toast(how === 'undo' ? say`Nothing to take back here.` : say`Nothing to make again here.`);
      else
        void turned.then((cells) => {
          if (cells) toast(`${how === 'undo' ? say`Taken back` : say`Made again`}: ${plural(cells, 'cell', 'cells')}.`);
        });
    },
    [scope],
  );
  const valueOf = useCallback(
    (id: string, key: string, stored: Value | null): Value | null => {
      const over = overlay.get(`${id}/${key}`);
      return over ? over.value : stored;
    },
    [overlay],
  );
  const isUnsaved = useCallback((id: string, key: string) => overlay.get(`${id}/${key}`)?.isLate === true, [overlay]);
  return { onPatch, onTurn, valueOf, isUnsaved, version: overlay };
}

import { applyFill, type FillOutcome } from '@basileus/contract';
import { type CauseKey, wordFinding } from '@basileus/core/checks';
import type { RulebookAttribute } from '@basileus/core/rulebook';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { type GridColumn, toCellValue } from '../table/columns';
import { FillInput } from '../table/FillForm';
import { count, plural, say, wordFor } from '../ui/text';
import { useQuiet } from '../ui/useQuiet';
import { useWording } from '../words/findings';
import { fillQuery } from './queries';
import { tell } from '../ui/tell';

/**
 * One value for all rows of a cause, or for the selected ones. It is tried on every row while it is typed; only rows that
 * it settles are filled, and it may be remembered for items that come later.
 */
export function CauseFill({
  cause,
  market,
  attribute,
  column,
  rows,
  selected,
  onDone,
}: {
  cause: CauseKey;
  market: string;
  attribute: RulebookAttribute;
  column: GridColumn;
  rows: number;
  /** Ids of the selected rows; more than one of them are filled alone. */
  selected: readonly number[];
  onDone: () => void;
}) {
  const [text, setText] = useState(''),
    [remember, setRemember] = useState(false);
  const wording = useWording(market);
  const typed = toCellValue(column, text);
  const quiet = useQuiet(text);
  const value = toCellValue(column, quiet);
  const { check, message, field } = cause;
  const ids = selected.length > 1 ? [...selected] : undefined;
  const fill = {
    check,
    message,
    field,
    value: value === null || typeof value === 'string' ? value : [...value],
    ...(ids ? { ids } : {}),
  };
  const trial = useQuery(fillQuery(market, fill));
  const mend = useMutation({
    mutationFn: () =>
      call(applyFill, { params: { market }, body: { ...fill, value: fill.value ?? '', remember: isKept } }),
    onSuccess: (r) => {
      toast.success(
        isKept
          ? say`Remembered: ${plural(r.changed, 'listing follows', 'listings follow')}, and items that come later.`
          : say`${plural(r.changed, 'listing', 'listings')} filled.`,
      );
      setText('');
      onDone();
    },
    onError: (e) => toast.error(e.message),
  });
  const outcome = typed === null || quiet !== text ? undefined : trial.data;
  const memory = ids === undefined ? outcome?.memory : undefined;
  const isKept = remember && memory !== undefined && memory.kind !== 'none';
  const all = ids?.length ?? rows;
  return (
    <form
      className="flex min-w-0 flex-col gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (outcome && outcome.settles > 0) mend.mutate();
      }}
    >
      <span className="flex items-center gap-1">
        <FillInput column={column} example={attribute.example} text={text} onText={setText} />
        <button type="submit" className="btn btn-sm" disabled={!outcome?.settles || mend.isPending}>
          {tell`Fill ${count(outcome?.settles ?? all)}${ids ? say` selected` : ''}`}
        </button>
      </span>
      {typed !== null && trial.isFetching && <span className="text-xs quiet">{say`Trying it on every row …`}</span>}
      {trial.error && typed !== null && <span className="text-xs text-error">{trial.error.message}</span>}
      {outcome?.fails.slice(0, 2).map((f) => (
        <span key={f.finding.check + f.finding.message} role="status" className="max-w-96 text-xs text-error">
          {outcome.settles > 0 || outcome.fails.length > 1 ? `${plural(f.count, 'row', 'rows')}: ` : ''}
          {wordFinding(f.finding, wording)}
        </span>
      ))}
      {memory && memory.kind !== 'none' && outcome && outcome.settles > 0 && (
        <label className="flex max-w-96 items-center gap-2 text-xs">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={remember}
            onChange={(e) => {
              setRemember(e.target.checked);
            }}
          />
          <span>{wordMemory(memory, column, text)}</span>
        </label>
      )}
    </form>
  );
}

function wordMemory(memory: FillOutcome['memory'], column: GridColumn, text: string): string {
  const label = column.options?.find((o) => o.code === text)?.label ?? text;
  if (memory.kind === 'field') return say`Remember “${label}” for every item that is asked for it`;
  const words = memory.words.slice(0, 3).map((w) => `“${w}”`);
  const more = memory.words.length - words.length;
  return say`Remember that ${words.join(', ')}${more > 0 ? say` and ${more} more` : ''} ${wordFor(memory.words.length, 'means', 'mean')} ${label}`;
}

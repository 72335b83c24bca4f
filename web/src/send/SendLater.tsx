import { createSending } from '@basileus/contract';
import type { Operation } from '@basileus/core/rulebook';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { AtATime } from '../ui/AtATime';
import { toast } from '../ui/messages';
import { toMoment } from '../ui/MomentField';
import { plural, say, when } from '../ui/text';
import type { RowChoice } from './ChooseRows';
import { HasLooked } from './HasLooked';

/** The next full hour of the morning after now: when most of what waits is meant to go. */
function nextMorning(now: Date): Date {
  const at = new Date(now);
  at.setHours(9, 0, 0, 0);
  if (at <= now) at.setDate(at.getDate() + 1);
  return at;
}

/** Sets a time at which the rows that are shown go. */
export function SendLater({
  market,
  operation,
  also,
  choice,
  sentence,
  warnings,
  onClose,
}: {
  market: string;
  operation: Operation;
  also: 'price' | 'stock' | undefined;
  choice: RowChoice;
  /** What goes where. */
  sentence: string;
  warnings: readonly string[];
  onClose: () => void;
}) {
  const client = useQueryClient();
  const [at, setAt] = useState(() => toMoment(nextMorning(new Date()))),
    [hasLooked, setLooked] = useState(false);
  const set = useMutation({
    mutationFn: () =>
      call(createSending, {
        params: { market },
        body: {
          is: 'once',
          at: new Date(at).toISOString(),
          operation,
          ...(also === undefined ? {} : { also }),
          ...choice,
          ids: choice.ids === '' ? undefined : choice.ids.split(',').map(Number),
          looked: hasLooked,
        },
      }),
    onSuccess: (s) => {
      toast.success(
        say`${plural(s.rows, 'row waits', 'rows wait')} for ${s.at ? when(s.at) : ''}, under By the clock.`,
      );
      void client.invalidateQueries({ queryKey: ['dispatches'] });
      void client.invalidateQueries({ queryKey: ['listings'] });
      onClose();
    },
  });
  return (
    <AtATime
      title={say`Send at a time`}
      label={say`Goes at`}
      at={at}
      onChange={setAt}
      under={
        <>
          <p className="quiet text-xs">
            {say`Until then these rows wait, whatever else is sent; they go as they stand then. What has a blocker by then stays behind.`}
          </p>
          <HasLooked warnings={warnings} isSo={hasLooked} onChange={setLooked} />
        </>
      }
      error={set.error}
      isSetting={set.isPending}
      isReady={warnings.length === 0 || hasLooked}
      onSet={() => {
        set.mutate();
      }}
      onClose={onClose}
    >
      <p className="font-semibold">{sentence}</p>
    </AtATime>
  );
}

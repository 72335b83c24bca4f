import { type ImportShape, timeImport } from '@basileus/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { AtATime } from '../ui/AtATime';
import { toMoment } from '../ui/MomentField';
import { say } from '../ui/text';

/** The first hour of the day after now: lists are valid from a day on. */
function nextDay(now: Date): Date {
  const at = new Date(now);
  at.setDate(at.getDate() + 1);
  at.setHours(0, 0, 0, 0);
  return at;
}

/** Sets the time at which an import is written. */
export function WriteLater({
  data,
  onSet,
  onClose,
}: {
  data: ImportShape;
  onSet: (next: ImportShape) => void;
  onClose: () => void;
}) {
  const [at, setAt] = useState(() => toMoment(data.due ? new Date(data.due.at) : nextDay(new Date())));
  const set = useMutation({
    mutationFn: () => call(timeImport, { params: { id: data.id }, body: { at: new Date(at).toISOString() } }),
    onSuccess: (next) => {
      onSet(next);
      onClose();
    },
  });
  return (
    <AtATime
      title={say`Write at a time`}
      label={say`Written at`}
      at={at}
      onChange={setAt}
      error={set.error}
      isSetting={set.isPending}
      onSet={() => {
        set.mutate();
      }}
      onClose={onClose}
    >
      <p className="max-w-prose">
        {say`The file is read once more at that time, and its rows are compared with the catalog as it is then. Until then nothing of it is written, and its rows can still be mended.`}
      </p>
    </AtATime>
  );
}

import { type ImportShape, timeImport } from '@basileus/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call, CallError } from '../api/call';
import { Modal } from '../ui/Modal';
import { MomentField, toMoment } from '../ui/MomentField';
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
    <Modal title={say`Write at a time`} onClose={onClose}>
      <form
        className="flex flex-col gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          set.mutate();
        }}
      >
        <p className="max-w-prose">
          {say`The file is read once more at that time, and its rows are compared with the catalog as it is then. Until then nothing of it is written, and its rows can still be mended.`}
        </p>
        <MomentField label={say`Written at`} value={at} onChange={setAt} />
        {set.error && (
          <p role="alert" className="text-error">
            {set.error instanceof CallError
              ? `${set.error.body.message} ${set.error.body.remedy ?? ''}`
              : set.error.message}
          </p>
        )}
        <div className="flex gap-2">
          <button type="submit" className="btn btn-sm btn-primary" disabled={set.isPending || at === ''}>
            {say`Set this time`}
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            {say`Not yet`}
          </button>
        </div>
      </form>
    </Modal>
  );
}

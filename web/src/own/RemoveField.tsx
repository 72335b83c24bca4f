import { removeField } from '@basileus/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { call, CallError } from '../api/call';
import { toast } from '../ui/messages';
import { Modal } from '../ui/Modal';
import { plural, say } from '../ui/text';
import type { Draft } from './draft';

/** Says what goes with a field before it goes. */
export function RemoveField({
  field,
  items,
  onClose,
  onGone,
}: {
  field: Draft;
  items: number;
  onClose: () => void;
  onGone: () => void;
}) {
  const client = useQueryClient();
  const remove = useMutation({
    mutationFn: () => call(removeField, { params: { key: field.key } }),
    onSuccess: async ({ job }) => {
      toast.success(
        job === null
          ? say`${field.label} was removed.`
          : say`${field.label} is being emptied, and goes when that is done.`,
      );
      await client.invalidateQueries({ queryKey: ['own'] });
      onGone();
    },
  });
  const refusal = remove.error instanceof CallError ? remove.error.body : undefined;
  return (
    <Modal title={say`Remove ${field.label}`} onClose={onClose}>
      <div className="flex flex-col gap-3 p-5">
        <p className="border-s-4 border-warning ps-3">
          {items === 0
            ? say`No item holds it.`
            : say`${plural(items, 'item holds', 'items hold')} something in it. That is emptied first, as a change that can be read in the change history, and taken back once there is a field ${field.key} again.`}
        </p>
        {refusal && (
          <p role="alert" className="text-error">
            {refusal.message} {refusal.remedy}
          </p>
        )}
        <div className="flex gap-2">
          <button
            type="button"
            className="btn btn-sm btn-error"
            disabled={remove.isPending}
            onClick={() => {
              remove.mutate();
            }}
          >
            {say`Remove it`}
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            {say`Keep it`}
          </button>
        </div>
      </div>
    </Modal>
  );
}

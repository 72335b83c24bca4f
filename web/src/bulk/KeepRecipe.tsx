import { type BulkShape, changeRecipe, createRecipe, type RecipeShape } from '@basileus/contract';
import { type Schedule, wordSchedule } from '@basileus/core/change';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, CallError } from '../api/call';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';
import { ScheduleField } from '../ui/ScheduleField';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

/** A change kept under a name, to be done again by hand or by the clock. */
export function KeepRecipe({
  bulk,
  recipe,
  onClose,
}: {
  bulk: BulkShape;
  recipe: RecipeShape | undefined;
  onClose: (kept: RecipeShape | undefined) => void;
}) {
  const client = useQueryClient();
  const [name, setName] = useState(recipe?.name ?? ''),
    [schedule, setSchedule] = useState<Schedule | null>(recipe?.schedule ?? null);
  const keep = useMutation({
    mutationFn: () =>
      recipe
        ? call(changeRecipe, { params: { id: recipe.id }, body: { ...bulk, name, schedule } })
        : call(createRecipe, { body: { ...bulk, name, schedule } }),
    onSuccess: (kept) => {
      toast.success(
        say`“${kept.name}” is kept${kept.schedule ? say` and is done ${wordSchedule(kept.schedule)}` : ''}.`,
      );
      void client.invalidateQueries({ queryKey: ['recipes'] });
      onClose(kept);
    },
  });
  return (
    <Modal
      title={recipe ? say`Recipe ${recipe.name}` : say`Keep as a recipe`}
      onClose={() => {
        onClose(undefined);
      }}
    >
      <form
        className="flex flex-col gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          keep.mutate();
        }}
      >
        <label className="block">
          <span className="quiet text-xs">{say`Name`}</span>
          <input
            data-first
            className="input input-sm w-full"
            required
            maxLength={120}
            value={name}
            onChange={(e) => {
              setName(e.target.value);
            }}
          />
        </label>
        <ScheduleField schedule={schedule} what={say`done`} onChange={setSchedule} />
        <p className="quiet text-xs">
          {tell`It is done on whatever matches then${schedule ? `, ${wordSchedule(schedule)}` : ''}; each time it is a change that can be taken back.`}
        </p>
        {keep.error && (
          <p role="alert" className="text-error">
            {keep.error instanceof CallError
              ? `${keep.error.body.message} ${keep.error.body.remedy ?? ''}`
              : keep.error.message}
          </p>
        )}
        <button type="submit" className="btn btn-sm btn-primary self-start" disabled={keep.isPending}>
          {say`Keep`}
        </button>
      </form>
    </Modal>
  );
}

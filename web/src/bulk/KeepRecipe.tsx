import { type BulkShape, changeRecipe, createRecipe, type RecipeShape } from '@basileus/contract';
import { type Schedule, wordSchedule } from '@basileus/core/change';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, CallError } from '../api/call';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';

const days = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

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
      toast.success(`“${kept.name}” is kept${kept.schedule ? ` and is done ${wordSchedule(kept.schedule)}` : ''}.`);
      void client.invalidateQueries({ queryKey: ['recipes'] });
      onClose(kept);
    },
  });
  const begin = (every: string) => {
    const at = schedule?.at ?? '06:00';
    setSchedule(
      every === 'day'
        ? { every, at }
        : every === 'week'
          ? { every, weekday: 1, at }
          : every === 'month'
            ? { every, day: 1, at }
            : null,
    );
  };
  return (
    <Modal
      title={recipe ? `Recipe ${recipe.name}` : 'Keep as a recipe'}
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
          <span className="quiet text-xs">Name</span>
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
        <div className="flex flex-wrap items-center gap-2">
          <select
            className="select select-sm w-44"
            aria-label="When it is done"
            value={schedule?.every ?? ''}
            onChange={(e) => {
              begin(e.target.value);
            }}
          >
            <option value="">done by hand</option>
            <option value="day">done every day</option>
            <option value="week">done every week</option>
            <option value="month">done every month</option>
          </select>
          {schedule?.every === 'week' && (
            <select
              className="select select-sm w-36"
              aria-label="Day of the week"
              value={schedule.weekday}
              onChange={(e) => {
                setSchedule({ ...schedule, weekday: Number(e.target.value) });
              }}
            >
              {days.map((d, i) => (
                <option key={d} value={i + 1}>
                  {d}
                </option>
              ))}
            </select>
          )}
          {schedule?.every === 'month' && (
            <label className="flex items-center gap-1">
              on day
              <input
                className="input input-sm num w-16"
                type="number"
                min={1}
                max={31}
                value={schedule.day}
                onChange={(e) => {
                  setSchedule({ ...schedule, day: Math.min(31, Math.max(1, Number(e.target.value) || 1)) });
                }}
              />
            </label>
          )}
          {schedule && (
            <label className="flex items-center gap-1">
              at
              <input
                className="input input-sm num w-28"
                type="time"
                required
                value={schedule.at}
                onChange={(e) => {
                  if (e.target.value !== '') setSchedule({ ...schedule, at: e.target.value });
                }}
              />
            </label>
          )}
        </div>
        <p className="quiet text-xs">
          It is done on whatever matches then{schedule ? `, ${wordSchedule(schedule)}` : ''}; each time it is a change
          that can be taken back.
        </p>
        {keep.error && (
          <p role="alert" className="text-error">
            {keep.error instanceof CallError
              ? `${keep.error.body.message} ${keep.error.body.remedy ?? ''}`
              : keep.error.message}
          </p>
        )}
        <button type="submit" className="btn btn-sm btn-primary self-start" disabled={keep.isPending}>
          Keep
        </button>
      </form>
    </Modal>
  );
}

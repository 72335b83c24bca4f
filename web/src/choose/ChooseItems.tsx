import { makeChoice, nameChoice } from '@basileus/contract';
import { everyItem, isEveryItem, type Which, wordWhich } from '@basileus/core/choose';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, CallError } from '../api/call';
import { useScope } from '../frame/scope';
import { KeptNames } from '../ui/KeptNames';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';
import { useQuiet } from '../ui/useQuiet';
import { count, say } from '../ui/text';
import { choiceQuery, namedChoicesQuery } from './queries';
import { useWideFields } from './wideFields';
import { WhichEditor } from './WhichEditor';
import { tell } from '../ui/tell';

/** Choosing items by conditions: how many that are is told while they are written, and they may be kept under a name. */
export function ChooseItems({
  which: first,
  onClose,
  onChosen,
}: {
  which: Which;
  onClose: () => void;
  /** The number of what was chosen, 0 where that is every item. */
  onChosen: (id: number) => void;
}) {
  const client = useQueryClient();
  const [which, setWhich] = useState(first),
    [name, setName] = useState(''),
    // What is put in as a whole is shown anew; what is typed is not.
    [turn, setTurn] = useState(0);
  const putIn = (w: Which) => {
    setWhich(w);
    setTurn(turn + 1);
  };
  const book = useWideFields(),
    { markets } = useScope();
  const forget = useMutation({
    mutationFn: (id: number) => call(nameChoice, { params: { id }, body: { name: null } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['choices'] }),
  });
  const named = useQuery(namedChoicesQuery).data?.rows ?? [];
  const quiet = useQuiet(which, 300);
  const asked = useQuery({
    queryKey: ['products', 'choice', 'asked', quiet],
    queryFn: () => call(makeChoice, { body: { which: quiet } }),
    retry: false,
  });
  const now = useQuery(choiceQuery(asked.data?.id ?? 0)).data;
  const isSettled = quiet === which && asked.data !== undefined && !asked.isFetching && !asked.error;
  const keep = useMutation({
    mutationFn: () => call(nameChoice, { params: { id: asked.data!.id }, body: { name } }),
    onSuccess: (c) => {
      toast.success(say`Kept as “${c.name ?? ''}”.`);
      setName('');
      void client.invalidateQueries({ queryKey: ['choices'] });
    },
  });
  const refusal = asked.error instanceof CallError ? asked.error.body.message : undefined;
  return (
    <Modal title={say`Which items`} onClose={onClose} wide>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (isSettled) onChosen(isEveryItem(which) ? 0 : asked.data.id);
        }}
      >
        <div className="px-5 pt-4 empty:hidden">
          <KeptNames
            label={say`Kept choices`}
            kept={named}
            about={(c) => wordWhich(c.which, book, (k) => markets.find((m) => m.key === k)?.name ?? k)}
            onUse={(c) => {
              putIn(c.which);
            }}
            onForget={forget.mutate}
          />
        </div>
        <WhichEditor key={turn} which={which} onChange={setWhich} />
        <div className="flex flex-wrap items-center gap-2 border-t border-base-300 px-5 py-3">
          <button type="submit" className="btn btn-sm btn-primary" disabled={!isSettled}>
            {isSettled && now ? say`Show ${count(now.total)} rows` : say`Show`}
          </button>
          <button
            type="button"
            className="btn btn-sm btn-ghost"
            onClick={() => {
              putIn(everyItem);
            }}
          >
            {say`Every item`}
          </button>
          <span className="text-error text-xs" role="alert">
            {refusal}
            {keep.error instanceof CallError ? keep.error.body.message : ''}
          </span>
          {isSettled && now && now.unknown.length > 0 && (
            <span className="text-warning text-xs">
              {tell`Not in the catalog: ${now.unknown.slice(0, 5).join(', ')}${now.unknown.length > 5 && say` and ${count(now.unknown.length - 5)} more`}`}
            </span>
          )}
          <span className="ms-auto flex items-center gap-2">
            <input
              className="input input-sm w-44"
              aria-label={say`Name of this choice`}
              placeholder={say`Name, to keep it`}
              maxLength={120}
              value={name}
              onChange={(e) => {
                setName(e.target.value);
              }}
            />
            <button
              type="button"
              className="btn btn-sm"
              disabled={!isSettled || name.trim() === '' || isEveryItem(which)}
              onClick={() => {
                keep.mutate();
              }}
            >
              {say`Keep`}
            </button>
          </span>
        </div>
      </form>
    </Modal>
  );
}

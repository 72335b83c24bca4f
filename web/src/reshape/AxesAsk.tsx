import { type Product, setAxes as sayAxes } from '@basileus/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { useFields } from '../own/fields';
import { Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';
import { say } from '../ui/text';

/** By which fields the variants of a family differ, in their order: the first is the first choice of a buyer. */
export function AxesChoice({ axes, onChange }: { axes: readonly string[]; onChange: (axes: string[]) => void }) {
  const book = useFields();
  return (
    <fieldset>
      <legend>{say`Variants differ by`}</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1 pt-1">
        {book.axes.map((a) => (
          <label key={a} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={axes.includes(a)}
              onChange={(e) => {
                onChange(e.target.checked ? [...axes, a] : axes.filter((x) => x !== a));
              }}
            />
            {book.labelOf(a)}
            {axes.length > 1 && axes.includes(a) && <span className="num quiet">{axes.indexOf(a) + 1}</span>}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** Says anew by which fields the variants of a family differ. */
export function AxesAsk({ family, onClose }: { family: Product; onClose: () => void }) {
  const client = useQueryClient();
  const [axes, setAxes] = useState<readonly string[]>(family.axes);
  const saying = useMutation({
    mutationFn: () => call(sayAxes, { params: { id: family.id }, body: { axes: [...axes] } }),
    onSuccess: () => {
      toast.success(say`Said of the family ${family.sku}.`);
      void client.invalidateQueries();
      onClose();
    },
  });
  return (
    <Modal title={say`The family ${family.sku}`} onClose={onClose}>
      <div className="flex flex-col gap-3 p-5">
        <AxesChoice axes={axes} onChange={setAxes} />
        {saying.error && <Refused error={saying.error} />}
        <div className="flex gap-2">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={axes.join() === family.axes.join() || saying.isPending}
            onClick={() => {
              saying.mutate();
            }}
          >
            {say`Say so`}
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            {say`Leave it`}
          </button>
        </div>
      </div>
    </Modal>
  );
}

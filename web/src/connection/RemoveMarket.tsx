import { type readMarket, removeMarket } from '@basileus/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { z } from 'zod';
import { call } from '../api/call';
import { Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { Modal } from '../ui/Modal';
import { plural, say } from '../ui/text';
import { tell } from '../ui/tell';

/** Asks for the name before a market goes, since that cannot be taken back. */
export function RemoveMarket({
  connection: c,
  onClose,
}: {
  connection: z.output<typeof readMarket.response>;
  onClose: () => void;
}) {
  const client = useQueryClient(),
    navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const remove = useMutation({
    mutationFn: () => call(removeMarket, { params: { market: c.key }, query: { name: typed } }),
    onSuccess: () => {
      toast.success(say`${c.name} was removed.`);
      void client.invalidateQueries();
      void navigate('/');
    },
  });
  return (
    <Modal title={say`Remove ${c.name}`} onClose={onClose}>
      <form
        className="flex flex-col gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          remove.mutate();
        }}
      >
        <p className="border-s-4 border-warning ps-3">
          {tell`${plural(c.listings, 'listing', 'listings')} with what was typed there, its dispatches, correspondences and rulebook go, and cannot be brought back. The products stay, and so does what stands on the market itself.`}
        </p>
        <label className="flex flex-col gap-1">
          <span className="text-sm">{tell`Type the name, ${c.name}, to go on`}</span>
          <input
            className="input input-sm"
            value={typed}
            autoComplete="off"
            onChange={(e) => {
              setTyped(e.target.value);
            }}
          />
        </label>
        {remove.error && <Refused error={remove.error} />}
        <div className="flex gap-2">
          <button type="submit" className="btn btn-sm btn-error" disabled={typed !== c.name || remove.isPending}>
            {say`Remove it for good`}
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            {say`Keep it`}
          </button>
        </div>
      </form>
    </Modal>
  );
}

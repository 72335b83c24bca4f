import { copyItem, type Product } from '@basileus/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { fromClipboard } from '../table/model';
import { Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';
import { plural, say } from '../ui/text';
import { tell } from '../ui/tell';

/** Copies of an item under other SKUs: one a line, with a title behind a tab where it has another, as a spreadsheet gives them. */
export function CopyAsk({ item, onClose }: { item: Product; onClose: () => void }) {
  const client = useQueryClient();
  const title = typeof item.fields['title'] === 'string' ? item.fields['title'] : item.sku;
  const [text, setText] = useState(`${item.sku}-2`);
  const items = fromClipboard(text)
    .map(([sku = '', own = '']) => ({ sku: sku.trim(), title: own.trim() || title }))
    .filter((i) => i.sku !== '');
  const copy = useMutation({
    mutationFn: () => call(copyItem, { body: { from: item.id, items } }),
    onSuccess: ({ ids }) => {
      toast.success(say`${plural(ids.length, 'copy', 'copies')} of ${item.sku} added.`);
      void client.invalidateQueries();
      onClose();
    },
  });
  return (
    <Modal title={say`Copy ${item.sku}`} onClose={onClose}>
      <form
        className="flex flex-col gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          copy.mutate();
        }}
      >
        <label className="flex flex-col gap-1">
          {say`SKUs of the copies, one a line; behind a tab their titles`}
          <textarea
            data-first
            className="textarea textarea-sm num"
            rows={5}
            value={text}
            onChange={(e) => {
              setText(e.target.value);
            }}
          />
        </label>
        <p className="quiet">
          {tell`They hold what ${item.sku} holds but for GTIN, part number and stock${item.kind === 'variant' ? say`, and stand in its family` : ''}.`}
        </p>
        {copy.error && <Refused error={copy.error} />}
        <div className="flex gap-2">
          <button type="submit" className="btn btn-primary btn-sm" disabled={items.length === 0 || copy.isPending}>
            {tell`Add ${plural(items.length, 'copy', 'copies')}`}
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            {say`Leave it`}
          </button>
        </div>
      </form>
    </Modal>
  );
}

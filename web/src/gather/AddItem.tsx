import { createProduct } from '@basileus/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call, CallError } from '../api/call';
import { Modal } from '../ui/Modal';
import { say } from '../ui/text';

/** A single item by its SKU and title; the rest is filled in the table. */
export function AddItem({ onClose, onAdded }: { onClose: () => void; onAdded: (sku: string) => void }) {
  const [sku, setSku] = useState(''),
    [title, setTitle] = useState('');
  const add = useMutation({
    mutationFn: () => call(createProduct, { body: { sku, title } }),
    onSuccess: () => {
      onAdded(sku);
    },
  });
  const refusal = add.error instanceof CallError ? add.error.body : undefined;
  return (
    <Modal title={say`Add an item`} onClose={onClose}>
      <form
        className="flex flex-col gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate();
        }}
      >
        <label className="flex flex-col gap-1">
          SKU
          <input
            className="input input-sm num"
            value={sku}
            onChange={(e) => {
              setSku(e.target.value);
            }}
            aria-invalid={refusal?.field === 'sku'}
            autoFocus
            required
          />
        </label>
        <label className="flex flex-col gap-1">
          {say`Title`}
          <input
            className="input input-sm"
            value={title}
            onChange={(e) => {
              setTitle(e.target.value);
            }}
            required
          />
        </label>
        {refusal && (
          <p role="alert" className="text-error">
            {refusal.message} {refusal.remedy}
          </p>
        )}
        <button type="submit" className="btn btn-primary btn-sm self-start" disabled={add.isPending}>
          {say`Add it`}
        </button>
      </form>
    </Modal>
  );
}

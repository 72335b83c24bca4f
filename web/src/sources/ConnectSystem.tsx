import { createSource, type SourceShape } from '@basileus/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { say } from '../ui/text';

/** A business system by its address; what its rows become is said once they are here. */
export function ConnectSystem({ onClose, onAdded }: { onClose: () => void; onAdded: (s: SourceShape) => void }) {
  const client = useQueryClient();
  const [name, setName] = useState(''),
    [address, setAddress] = useState(''),
    [key, setKey] = useState(''),
    [way, setWay] = useState<SourceShape['way']>('pages'),
    [decimalSign, setSign] = useState<SourceShape['decimalSign']>('.');
  const add = useMutation({
    mutationFn: () => call(createSource, { body: { name, address, way, decimalSign, key: key === '' ? null : key } }),
    onSuccess: (s) => {
      void client.invalidateQueries({ queryKey: ['sources'] });
      onAdded(s);
    },
  });
  return (
    <Modal title={say`Connect a business system`} onClose={onClose}>
      <form
        className="flex flex-col gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate();
        }}
      >
        <label className="flex flex-col gap-1">
          {say`Name`}
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
        <fieldset className="flex flex-col gap-1">
          <legend className="sr-only">{say`How it is read`}</legend>
          {(
            [
              ['pages', say`Rows as JSON, a page after the other`],
              ['file', say`A text file with a heading row, such as the one of every night`],
            ] as const
          ).map(([w, says]) => (
            <label key={w} className="flex items-center gap-2">
              <input
                type="radio"
                name="way"
                className="radio radio-sm"
                checked={way === w}
                onChange={() => {
                  setWay(w);
                }}
              />
              {says}
            </label>
          ))}
        </fieldset>
        <label className="flex flex-col gap-1">
          {say`Address`}
          <input
            className="input input-sm num w-full"
            required
            placeholder="http://ledger.example/articles"
            value={address}
            onChange={(e) => {
              setAddress(e.target.value);
            }}
          />
        </label>
        <label className="flex flex-col gap-1">
          {say`Key, where it asks for one`}
          <input
            className="input input-sm num w-full"
            type="password"
            autoComplete="off"
            value={key}
            onChange={(e) => {
              setKey(e.target.value);
            }}
          />
        </label>
        <label className="flex items-center gap-2">
          {say`Its numbers have a decimal`}
          <select
            className="select select-sm w-28"
            value={decimalSign}
            onChange={(e) => {
              setSign(e.target.value as typeof decimalSign);
            }}
          >
            <option value=".">{say`point`}</option>
            <option value=",">{say`comma`}</option>
          </select>
        </label>
        {add.error && <Refused error={add.error} />}
        <button type="submit" className="btn btn-primary btn-sm self-start" disabled={add.isPending}>
          {say`Connect it`}
        </button>
      </form>
    </Modal>
  );
}

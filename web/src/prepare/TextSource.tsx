import type { FieldRow } from '@basileus/contract';
import type { Source } from '@basileus/core/listing';
import type { Rulebook } from '@basileus/core/rulebook';
import { useState } from 'react';
import { ListPicker } from '../ui/ListPicker';
import { Modal } from '../ui/Modal';
import { say } from '../ui/text';

export interface SourceEditing {
  row: FieldRow;
  node: string;
  rulebook: Rulebook;
  isBusy: boolean;
  /** What the node is called. */
  where: string;
  onKeep: (source: Source) => void;
  onClose: () => void;
}

/** The same text for every item; one of the list where the attribute has one. */
export function TextSource({ row, node, rulebook, isBusy, where, onKeep, onClose }: SourceEditing) {
  const { said } = row;
  const [text, setText] = useState(said?.node === node && said.source.is === 'text' ? said.source.text : '');
  const codes = rulebook.attributes.find((a) => a.key === row.attribute)?.codes,
    entries = codes === undefined ? undefined : rulebook.codeLists[codes]?.entries;
  return (
    <Modal title={say`${row.label}, for ${where}`} onClose={onClose}>
      <form
        className="flex flex-col gap-4 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          if (text.trim() !== '') onKeep({ is: 'text', text: text.trim() });
        }}
      >
        <label className="flex flex-col gap-1">
          <span className="text-sm">{say`The same for every item`}</span>
          {entries && row.type === 'one-of' ? (
            <ListPicker
              label={say`Same text for ${row.label}`}
              width="w-full"
              options={entries}
              value={text}
              onChoose={setText}
            />
          ) : (
            <input
              data-first
              className="input input-sm w-full"
              aria-label={say`Same text for ${row.label}`}
              value={text}
              onChange={(e) => {
                setText(e.target.value);
              }}
            />
          )}
          {row.type === 'several-of' && <span className="quiet text-xs">{say`Codes of the list, divided by |.`}</span>}
        </label>
        <button type="submit" className="btn btn-sm btn-primary self-start" disabled={isBusy || text.trim() === ''}>
          {say`Keep`}
        </button>
      </form>
    </Modal>
  );
}

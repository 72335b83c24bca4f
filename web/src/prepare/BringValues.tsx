import { readValueMap } from '@basileus/contract';
import type { Rulebook } from '@basileus/core/rulebook';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { z } from 'zod';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { count, plural, say, wordFor } from '../ui/text';
import { readValueTable } from './value-table';
import { FileButton } from '../ui/FileButton';
import { tell } from '../ui/tell';

type Read = z.output<typeof readValueMap.response>;
type Fault = Read['faults'][number];
const mostShown = 200;
/** The first row of the table is its head. */
const firstRow = 2;

const wordFault = ({ is, near }: Fault): string => {
  const nearest = near === null ? '' : say`; “${near}” is nearest`;
  switch (is) {
    case 'attribute':
      return say`no attribute with a list of values is called that${nearest}`;
    case 'theirs':
      return say`their value is not on the list${nearest}`;
    case 'ours':
      return say`our value is empty`;
    case 'twice':
      return say`the same value stands further up with another of theirs; that one counts`;
  }
};

/** A table of values that was made elsewhere: pasted or from a file, shown with what it would change, then taken. */
export function BringValues({
  node,
  rulebook,
  isBusy,
  onTake,
  onClose,
}: {
  node: string;
  rulebook: Rulebook;
  isBusy: boolean;
  onTake: (codes: { attribute: string; ours: string; theirs: string | null }[]) => void;
  onClose: () => void;
}) {
  const { market, name } = useScope();
  const [text, setText] = useState('');
  const rows = readValueTable(text);
  const read = useMutation({
    mutationFn: () => call(readValueMap, { params: { market }, body: { node, rows } }),
  });
  const give = (t: string) => {
    setText(t);
    read.reset();
  };
  return (
    <Modal title={say`A table of values for ${name}`} onClose={onClose} wide>
      <form
        className="flex flex-col gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          read.mutate();
        }}
      >
        <label className="flex flex-col gap-1">
          <span className="text-sm">
            {say`Attribute, our value and their value, one row each; an empty value of theirs forgets what was chosen`}
          </span>
          <textarea
            data-first
            className="textarea num h-40 w-full text-xs"
            value={text}
            placeholder={'Attribute\tOur value\tTheir value\nColour\tNavy\tBlue'}
            onChange={(e) => {
              give(e.target.value);
            }}
          />
        </label>
        <div className="flex flex-wrap gap-2">
          <FileButton
            label={say`A file with a table of values`}
            accept=".csv,.tsv,.txt,text/csv,text/plain"
            onFiles={(f) => void f.text().then(give)}
          >
            {say`Open a file …`}
          </FileButton>
          <button type="submit" className="btn btn-sm" disabled={rows.length === 0 || read.isPending}>
            {tell`Look at ${plural(rows.length, 'row', 'rows')}`}
          </button>
        </div>
      </form>
      {read.error && <Refused error={read.error} />}
      {read.data && (
        <Looked
          read={read.data}
          rows={rows}
          rulebook={rulebook}
          isBusy={isBusy}
          onTake={() => {
            onTake(read.data.changes.map(({ attribute, ours, theirs }) => ({ attribute, ours, theirs })));
          }}
        />
      )}
    </Modal>
  );
}

function Looked({
  read,
  rows,
  rulebook,
  isBusy,
  onTake,
}: {
  read: Read;
  rows: readonly { attribute: string; ours: string; theirs: string }[];
  rulebook: Rulebook;
  isBusy: boolean;
  onTake: () => void;
}) {
  const attributes = new Map(rulebook.attributes.map((a) => [a.key, a]));
  const labelOf = (attribute: string, code: string | null): string =>
    code === null
      ? say`nothing chosen`
      : (rulebook.codeLists[attributes.get(attribute)?.codes ?? '']?.entries.find((e) => e.code === code)?.label ??
        code);
  const { changes, faults, same } = read;
  return (
    <div
      className="flex flex-col gap-3 border-t border-base-300 p-5"
      role="region"
      aria-label={say`What it would change`}
    >
      <p>
        {tell`${plural(changes.length, 'value becomes', 'values become')} something else, ${count(same)} ${wordFor(same, 'stays as it is', 'stay as they are')}`}
        {faults.length > 0 && (
          <span className="text-error">{tell`, ${plural(faults.length, 'row', 'rows')} left out`}</span>
        )}
        .
      </p>
      {faults.length > 0 && (
        <ul className="text-sm text-error">
          {faults.slice(0, mostShown).map((f) => (
            <li key={f.row}>
              {tell`Row ${f.row + firstRow}, ${[rows[f.row]?.attribute, rows[f.row]?.ours, rows[f.row]?.theirs].join(' · ')}: ${wordFault(f)}.`}
            </li>
          ))}
        </ul>
      )}
      {changes.length > 0 && (
        <>
          <table className="plain-table text-sm">
            <thead>
              <tr>
                <th>{say`Attribute`}</th>
                <th>{say`Our value`}</th>
                <th>{say`Is now`}</th>
                <th>{say`Becomes`}</th>
              </tr>
            </thead>
            <tbody>
              {changes.slice(0, mostShown).map((c) => (
                <tr key={`${c.attribute}\t${c.ours}`}>
                  <td>{attributes.get(c.attribute)?.label ?? c.attribute}</td>
                  <td className="font-semibold">{c.ours}</td>
                  <td className="quiet">{c.before === null ? say`not matched` : labelOf(c.attribute, c.before)}</td>
                  <td>{labelOf(c.attribute, c.theirs)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {changes.length > mostShown && (
            <p className="quiet text-sm">{tell`and ${count(changes.length - mostShown)} more`}</p>
          )}
          <button type="button" className="btn btn-sm btn-primary self-start" disabled={isBusy} onClick={onTake}>
            {tell`Take ${plural(changes.length, 'value', 'values')}`}
          </button>
        </>
      )}
    </div>
  );
}

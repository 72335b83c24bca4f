import { countValues } from '@basileus/contract';
import type { ChangeOperation } from '@basileus/core/change';
import { everyItem } from '@basileus/core/choose';
import type { ProductField } from '@basileus/core/product';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { toast } from '../ui/messages';
import { say } from '../ui/text';
import { Lines, Tick } from './inputs';

type Read = Extract<ChangeOperation, { do: 'read' }>;

/** Which words are looked for in titles, highlights and descriptions. */
export function ReadForm({
  field,
  operation,
  onChange,
}: {
  field: ProductField;
  operation: Read;
  onChange: (operation: Read) => void;
}) {
  const [filled, setFilled] = useState(0);
  const isAmount = field.kind === 'measure' || field.kind === 'number' || field.kind === 'integer';
  const isChoice = field.kind === 'text' || field.kind === 'list';
  const hasList = field.values !== undefined && field.values.length > 0;
  const used = useMutation({
    mutationFn: () => call(countValues, { body: { which: everyItem, field: field.key } }),
    onSuccess: ({ values }) => {
      onChange({ ...operation, words: values.map((v) => v.value) });
      // The box is made anew: what stands in it is its own once somebody types.
      setFilled(filled + 1);
    },
    onError: (e) => toast.error(e.message),
  });
  return (
    <>
      <Lines
        key={filled}
        label={
          isChoice
            ? hasList
              ? say`Words, one a line: Blue = navy, azure. Those of its list where none are given.`
              : say`Words, one a line: Blue = navy, azure`
            : say`Words beside it, one a line. Its name where none are given.`
        }
        items={operation.words}
        onChange={(words) => {
          onChange({ ...operation, words });
        }}
      />
      <div className="flex flex-wrap items-center gap-4 text-xs">
        {isChoice && !hasList && (
          <button
            type="button"
            className="btn btn-xs"
            disabled={used.isPending}
            onClick={() => {
              used.mutate();
            }}
          >
            {say`Words that are in use`}
          </button>
        )}
        {isAmount && (
          <Tick
            label={say`also with no such word, where it is the only one in the title`}
            isOn={operation.alone}
            onChange={(alone) => {
              onChange({ ...operation, alone });
            }}
          />
        )}
        <span className="quiet">{say`Only what is empty is filled; what the texts leave open stays empty.`}</span>
      </div>
    </>
  );
}

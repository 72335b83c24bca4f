import { countValues, makeChoice } from '@basileus/contract';
import {
  type Clause,
  findClauseProblem,
  isEveryItem,
  isFieldClause,
  isOneOfSeveral,
  listTests,
  narrow,
  type Which,
  wordClauseProblem,
} from '@basileus/core/choose';
import type { ProductField } from '@basileus/core/product';
import { useMutation, useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { call, CallError } from '../api/call';
import { type FieldLine, startLine, toClause, toLine } from '../choose/clause';
import { FieldClauseLine } from '../choose/FieldClauseLine';
import type { useChoice } from '../choose/useChoice';
import { useWideFields } from '../choose/wideFields';
import { count, say } from '../ui/text';
import { useQuiet } from '../ui/useQuiet';

/** Conditions of one column at the most. */
const mostLines = 4;
const isWrong = (problem: ReturnType<typeof findClauseProblem>): boolean =>
  problem !== undefined && problem.is !== 'nothing-given';
const isAbout = (key: string) => (c: Clause) => isFieldClause(c) && c.field === key;

/** Narrows the catalog by one column: conditions that all hold, or values picked out of those that stand there. */
export function ColumnFilter({
  field,
  choice,
  meant,
  onDone,
}: {
  field: ProductField;
  choice: ReturnType<typeof useChoice>;
  /** All that the catalog shows now. */
  meant: Which;
  onDone: () => void;
}) {
  const book = useWideFields(field.market !== undefined);
  const { which } = choice;
  // Beside conditions of which one is enough, a column narrows what they all leave.
  const place = isOneOfSeveral(which) ? 'also' : 'clauses';
  const without = (w: Which): Which => ({ ...w, [place]: w[place].filter((c) => !isAbout(field.key)(c)) });
  const held = which[place].filter(isAbout(field.key)).filter(isFieldClause);
  const tests = listTests(field);
  const [lines, setLines] = useState<readonly FieldLine[]>(() =>
    held.length > 0 ? held.map(toLine) : [startLine(field)],
  );
  const [picked, setPicked] = useState<readonly string[]>(() =>
    held.length > 1 ? [] : held[0]?.is === 'one-of' ? held[0].values : held[0]?.is === 'equals' ? [held[0].value] : [],
  );
  const setLine = (at: number, line: FieldLine | undefined): void => {
    setLines(lines.flatMap((l, i) => (i === at ? (line ?? []) : l)));
    setPicked([]);
  };
  const [sought, setSought] = useState('');
  const quiet = useQuiet(sought, 250);
  const others = without(meant);
  const asked = useQuery({
    queryKey: ['products', 'values', field.key, others, quiet],
    queryFn: () => call(countValues, { body: { which: others, field: field.key, search: quiet } }),
  });
  const put = useMutation({
    mutationFn: async (clauses: readonly Clause[]) => {
      const next = narrow(without(which), clauses);
      return isEveryItem(next) ? 0 : (await call(makeChoice, { body: { which: next } })).id;
    },
    onSuccess: (id) => {
      choice.choose(id);
      onDone();
    },
  });
  const canPick = tests.includes('one-of');
  const clauses: readonly Clause[] =
    canPick && picked.length > 0
      ? [
          picked.length === 1
            ? { is: 'equals', field: field.key, value: picked[0]! }
            : { is: 'one-of', field: field.key, values: [...picked] },
        ]
      : lines.map(toClause);
  const problems = clauses.map((c) => findClauseProblem(c, book));
  const problem = problems.find((p) => p !== undefined);
  const values = asked.data?.values ?? [];
  return (
    <form
      className="flex flex-col gap-2 border-b border-base-300 px-3 py-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!problem) put.mutate(clauses);
      }}
    >
      <div className="flex flex-col gap-1.5" data-first tabIndex={-1}>
        {lines.map((line, i) => (
          <div key={i} className="flex flex-wrap items-center gap-1.5">
            {i > 0 && <span className="quiet text-xs">{say`and`}</span>}
            <FieldClauseLine
              line={line}
              isFixed
              isWrong={isWrong(problems[i])}
              onChange={(l) => {
                setLine(i, l);
              }}
            />
            {lines.length > 1 && (
              <button
                type="button"
                className="btn btn-ghost btn-xs btn-square"
                aria-label={say`Leave condition ${i + 1} out`}
                onClick={() => {
                  setLine(i, undefined);
                }}
              >
                <X size={13} />
              </button>
            )}
          </div>
        ))}
        {lines.length < mostLines && (
          <button
            type="button"
            className="btn btn-ghost btn-xs w-fit"
            onClick={() => {
              setLines([...lines, startLine(field)]);
              setPicked([]);
            }}
          >
            {say`And another condition`}
          </button>
        )}
      </div>
      {problem && isWrong(problem) && (
        <p role="alert" className="text-xs text-error">
          {wordClauseProblem(problem)}
        </p>
      )}
      <input
        className="input input-sm"
        aria-label={say`Find a value`}
        placeholder={say`or pick what stands there`}
        value={sought}
        onChange={(e) => {
          setSought(e.target.value);
        }}
      />
      {/* As high before the values are there as after: what stands under it must not move away from under the pointer. */}
      <ul className="h-40 overflow-auto" aria-label={say`Values of ${field.label}`}>
        {asked.data && asked.data.empty > 0 && quiet === '' && (
          <li>
            <button
              type="button"
              className="flex w-full gap-2 px-1 py-0.5 text-start italic hover:bg-base-200"
              onClick={() => {
                put.mutate([{ is: 'empty', field: field.key }]);
              }}
            >
              {say`nothing `}
              <span className="num ms-auto quiet">{count(asked.data.empty)}</span>
            </button>
          </li>
        )}
        {values.map(({ value, count: n }) => (
          <li key={value}>
            {canPick ? (
              <label className="flex gap-2 px-1 py-0.5 hover:bg-base-200">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={picked.includes(value)}
                  onChange={(e) => {
                    setPicked(e.target.checked ? [...picked, value] : picked.filter((v) => v !== value));
                  }}
                />
                <span className="line-clamp-1 break-all">{value}</span>
                <span className="num ms-auto quiet">{count(n)}</span>
              </label>
            ) : (
              <button
                type="button"
                className="flex w-full gap-2 px-1 py-0.5 text-start hover:bg-base-200"
                onClick={() => {
                  put.mutate([{ is: 'equals', field: field.key, value }]);
                }}
              >
                <span className="line-clamp-1 break-all">{value}</span>
                <span className="num ms-auto quiet">{count(n)}</span>
              </button>
            )}
          </li>
        ))}
        {asked.isLoading && <li className="quiet">{say`Counting …`}</li>}
        {asked.data && values.length === 0 && quiet !== '' && (
          <li className="quiet">{say`Nothing holds these words.`}</li>
        )}
        {asked.data?.isMore && <li className="quiet text-xs">{say`More are found by their words.`}</li>}
      </ul>
      <div className="flex items-center gap-2">
        <button type="submit" className="btn btn-sm btn-primary" disabled={problem !== undefined || put.isPending}>
          {say`Narrow`}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-ghost"
          disabled={held.length === 0}
          onClick={() => {
            put.mutate([]);
          }}
        >
          {say`Show all again`}
        </button>
        <span role="alert" className="text-xs text-error">
          {put.error instanceof CallError ? put.error.body.message : ''}
        </span>
      </div>
    </form>
  );
}

import {
  type Clause,
  findClauseProblem,
  isFieldClause,
  readSkus,
  type RowChoice,
  rowChoices,
  type Which,
  wordClause,
  wordClauseProblem,
  wordRows,
} from '@basileus/core/choose';
import { toDay } from '@basileus/core/quantity';
import { listingStates } from '@basileus/core/rulebook';
import { Plus, X } from 'lucide-react';
import { useScope } from '../frame/scope';
import { Choice } from '../ui/Choice';
import { startLine, toClause, toLine } from './clause';
import { FieldClauseLine } from './FieldClauseLine';
import { useWideFields } from './wideFields';
import { count, say } from '../ui/text';
import { tell } from '../ui/tell';

/** Which items: rows of a kind, named SKUs, and conditions that all or one must hold. */
export function WhichEditor({ which, onChange }: { which: Which; onChange: (which: Which) => void }) {
  const book = useWideFields(),
    { markets } = useScope();
  const nameOf = (key: string) => markets.find((m) => m.key === key)?.name ?? key;
  const ofListings = book.all.find((f) => f.market !== undefined);
  const put = (i: number, clause: Clause) => {
    onChange({ ...which, clauses: which.clauses.map((c, n) => (n === i ? clause : c)) });
  };
  const drop = (i: number) => {
    onChange({ ...which, clauses: which.clauses.filter((_, n) => n !== i) });
  };
  const add = (clause: Clause) => {
    onChange({ ...which, clauses: [...which.clauses, clause] });
  };
  return (
    <div className="flex flex-col gap-4 p-5">
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-2">
          <span>{say`Rows`}</span>
          <select
            className="select select-sm w-44"
            value={which.rows}
            onChange={(e) => {
              onChange({ ...which, rows: e.target.value as RowChoice });
            }}
          >
            {rowChoices.map((r) => (
              <option key={r} value={r}>
                {wordRows(r)}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-2">
          <span>{say`of which`}</span>
          <select
            className="select select-sm w-52"
            value={which.match}
            onChange={(e) => {
              onChange({ ...which, match: e.target.value as Which['match'] });
            }}
          >
            <option value="all">{say`all of these are true`}</option>
            <option value="any">{say`one of these is true`}</option>
          </select>
        </label>
      </div>
      <ul className="flex flex-col gap-2" aria-label={say`Conditions`}>
        {which.clauses.map((c, i) => {
          const problem = findClauseProblem(c, book);
          return (
            <li key={i}>
              <div className="flex items-center gap-2">
                {isFieldClause(c) ? (
                  <FieldClauseLine
                    line={toLine(c)}
                    isWrong={problem !== undefined && problem.is !== 'nothing-given'}
                    onChange={(line) => {
                      put(i, toClause(line));
                    }}
                  />
                ) : c.is === 'state' ? (
                  <>
                    <Choice
                      label={say`State`}
                      all={say`in any state`}
                      width="w-40"
                      value={c.state}
                      options={listingStates.map((s) => [s, s])}
                      onChoose={(state) => {
                        put(i, { ...c, state: (state || 'live') as typeof c.state });
                      }}
                    />
                    <Choice
                      label={say`Market`}
                      all={say`on any market`}
                      width="w-44"
                      value={c.market}
                      options={markets.map((m) => [m.key, say`on ${m.name}`])}
                      onChoose={(market) => {
                        put(i, { ...c, market });
                      }}
                    />
                  </>
                ) : c.is === 'changed' ? (
                  <label className="flex items-center gap-2">
                    {say`changed since`}
                    <input
                      type="date"
                      className="input input-sm w-40"
                      value={c.since}
                      onChange={(e) => {
                        if (e.target.value !== '') put(i, { ...c, since: e.target.value });
                      }}
                    />
                  </label>
                ) : (
                  <span>{wordClause(c, book, nameOf)}</span>
                )}
                <button
                  type="button"
                  className="btn btn-ghost btn-sm btn-square ms-auto"
                  aria-label={say`Take out: ${wordClause(c, book, nameOf)}`}
                  onClick={() => {
                    drop(i);
                  }}
                >
                  <X size={14} />
                </button>
              </div>
              {problem && problem.is !== 'nothing-given' && (
                <p role="alert" className="mt-1 text-xs text-error">
                  {wordClauseProblem(problem)}
                </p>
              )}
            </li>
          );
        })}
      </ul>
      {which.also.length > 0 && (
        <ul className="flex flex-col gap-1" aria-label={say`Conditions besides`}>
          {which.also.map((c, i) => (
            <li key={i} className="flex items-center gap-2">
              {tell`and besides ${wordClause(c, book, nameOf)}`}
              <button
                type="button"
                className="btn btn-ghost btn-sm btn-square ms-auto"
                aria-label={say`Take out: ${wordClause(c, book, nameOf)}`}
                onClick={() => {
                  onChange({ ...which, also: which.also.filter((_, n) => n !== i) });
                }}
              >
                <X size={14} />
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-wrap gap-2">
        <AddButton
          label={say`A field`}
          onAdd={() => {
            add(toClause(startLine(book.get('brand')!)));
          }}
        />
        {ofListings && (
          <AddButton
            label={say`A market’s field`}
            onAdd={() => {
              add(toClause(startLine(ofListings)));
            }}
          />
        )}
        <AddButton
          label={say`State on a market`}
          onAdd={() => {
            add({ is: 'state', market: '', state: 'live' });
          }}
        />
        <AddButton
          label={say`Changed since`}
          onAdd={() => {
            const week = new Date(Date.now() - 7 * 86_400_000);
            add({ is: 'changed', since: toDay(week) });
          }}
        />
      </div>
      <Named which={which} onChange={onChange} />
    </div>
  );
}

const AddButton = ({ label, onAdd }: { label: string; onAdd: () => void }) => (
  <button type="button" className="btn btn-sm gap-1" onClick={onAdd}>
    <Plus size={14} />
    {label}
  </button>
);

/** SKUs named one by one, pasted from wherever, and rows that were marked in the table. */
function Named({ which, onChange }: { which: Which; onChange: (which: Which) => void }) {
  return (
    <>
      {which.ids.length > 0 && (
        <p className="flex items-center gap-2">
          {tell`Only the ${count(which.ids.length)} rows that were marked.`}
          <button
            type="button"
            className="btn btn-xs"
            onClick={() => {
              onChange({ ...which, ids: [] });
            }}
          >
            {say`All rows`}
          </button>
        </p>
      )}
      <label className="block">
        <span className="quiet text-xs">{say`Only these SKUs, pasted from anywhere; all where none stand here`}</span>
        <textarea
          className="textarea textarea-sm num min-h-0 w-full"
          rows={which.skus.length === 0 ? 2 : 5}
          defaultValue={which.skus.join('\n')}
          onChange={(e) => {
            onChange({ ...which, skus: readSkus(e.target.value) });
          }}
        />
      </label>
    </>
  );
}

import { judgeEntries, type ListingRow, lookUp } from '@basileus/contract';
import { findContradictions } from '@basileus/core/listing';
import { createLabeler, type Rulebook } from '@basileus/core/rulebook';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/call';
import { Empty, Loading, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { Pager } from '../ui/Pager';
import { plural, say } from '../ui/text';
import { oneOf, useUrlValue } from '../ui/url';
import { wordFact } from './facts';
import { entriesQuery, entriesOnPage } from './queries';
import { tell } from '../ui/tell';

const answers = ['found', 'joined', 'other'] as const;
type Answer = (typeof answers)[number];
const answerNames: Record<Answer, string> = { found: say`To decide`, joined: say`Joined`, other: say`Another item` };
const done: Record<Answer, string> = {
  joined: say`to go as an offer on the market’s entry`,
  other: say`to go as a new entry`,
  found: say`to be decided again`,
};

/** Sends what a person says of entries; says what came of it. */
export function useJudgeEntries(market: string, name: string) {
  return useMutation({
    mutationFn: (body: { ids: number[]; is: Answer }) => call(judgeEntries, { params: { market }, body }),
    onSuccess: ({ changed, there }, { is }) => {
      toast.success(
        `${plural(changed, 'item is', 'items are')} ${done[is]}${there > 0 ? say`; ${plural(there, 'is', 'are')} on ${name} or on the way there and stay as they are` : ''}.`,
      );
    },
  });
}

/** Entries that the market has of items that are new to it from us, each to be joined or told apart. */
export function EntriesThere({ rulebook }: { rulebook: Rulebook }) {
  const { key: market, name } = rulebook.market;
  const [chosen, setChosen] = useUrlValue('entries', 'found'),
    [offset, setOffset] = useState(0);
  const is = oneOf(answers, chosen);
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const found = useQuery(entriesQuery(market, is, offset));
  const look = useMutation({
    mutationFn: () => call(lookUp, { params: { market }, body: {} }),
    onSuccess: ({ items, joined }) => {
      const asked = say`${name} is asked for ${plural(items, 'item that is', 'items that are')} new to it.`;
      toast.success(
        joined === 0
          ? asked
          : `${asked} ${say`${plural(joined, 'entry that you join is', 'entries that you join are')} compared again.`}`,
      );
    },
  });
  const judge = useJudgeEntries(market, name);
  const answerFor = (ids: number[], as: Answer): void => {
    judge.mutate({ ids, is: as });
    setPicked(new Set());
  };
  const rows = found.data?.rows ?? [],
    ids = rows.map((r) => r.id).filter((id) => picked.has(id));
  return (
    <section aria-label={say`Entries that are there already`} className="panel flex flex-col">
      <header className="flex flex-wrap items-center gap-3 border-b border-base-300 px-4 py-2">
        <h2 className="text-lg">{tell`Already on ${name}`}</h2>
        <span className="join" role="group" aria-label={say`Which entries`}>
          {answers.map((key) => (
            <button
              key={key}
              type="button"
              aria-pressed={key === is}
              className={`btn btn-xs join-item ${key === is ? 'btn-primary' : ''}`}
              onClick={() => {
                setChosen(key);
                setOffset(0);
                setPicked(new Set());
              }}
            >
              {answerNames[key]}
            </button>
          ))}
        </span>
        <span className="ms-auto flex flex-wrap gap-2">
          {answers
            .filter((a) => a !== is)
            .map((a) => (
              <button
                key={a}
                type="button"
                className={`btn btn-sm ${a === 'joined' ? 'btn-primary' : ''}`}
                disabled={ids.length === 0 || judge.isPending}
                onClick={() => {
                  answerFor(ids, a);
                }}
              >
                {verbs[a]} {ids.length > 0 && ids.length}
              </button>
            ))}
          <button
            type="button"
            className="btn btn-sm"
            disabled={look.isPending}
            onClick={() => {
              look.mutate();
            }}
          >
            {say`Look up what is new`}
          </button>
        </span>
      </header>
      {judge.error || look.error ? <Refused error={judge.error ?? look.error} /> : null}
      {found.error ? (
        <Refused error={found.error} />
      ) : found.isLoading ? (
        <Loading />
      ) : rows.length === 0 ? (
        <Empty title={is === 'found' ? say`Nothing waits to be decided.` : say`None so far.`}>
          {is === 'found' &&
            say`Look up what is new: items that ${name} has already are joined with an offer, since a second entry is refused.`}
        </Empty>
      ) : (
        <>
          <EntryTable rows={rows} rulebook={rulebook} is={is} picked={picked} onPick={setPicked} />
          <Pager offset={offset} size={entriesOnPage} total={found.data!.total} onGo={setOffset} />
        </>
      )}
    </section>
  );
}

const verbs: Record<Answer, string> = { joined: say`Join`, other: say`Another item`, found: say`Decide again` };

function EntryTable({
  rows,
  rulebook,
  is,
  picked,
  onPick,
}: {
  rows: readonly ListingRow[];
  rulebook: Rulebook;
  is: Answer;
  picked: ReadonlySet<number>;
  onPick: (ids: ReadonlySet<number>) => void;
}) {
  const labelOf = createLabeler(rulebook);
  const isAll = rows.every((r) => picked.has(r.id));
  return (
    <table className="plain-table">
      <thead>
        <tr>
          <th className="w-8">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              aria-label={say`All on this page`}
              checked={isAll}
              onChange={() => {
                onPick(isAll ? new Set() : new Set(rows.map((r) => r.id)));
              }}
            />
          </th>
          <th>{say`Our item`}</th>
          <th>{say`Their entry`}</th>
          <th>{is === 'other' ? say`It says` : say`It says otherwise`}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <tr key={r.id} className="align-top">
            <td>
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                aria-label={r.sku}
                checked={picked.has(r.id)}
                onChange={() => {
                  const next = new Set(picked);
                  if (!next.delete(r.id)) next.add(r.id);
                  onPick(next);
                }}
              />
            </td>
            <td>
              <Link className="num underline underline-offset-2" to={`/${rulebook.market.key}/prepare?open=${r.id}`}>
                {r.sku}
              </Link>
              <div>{r.title}</div>
            </td>
            <td>
              <span className="num">{r.entry?.number}</span>
              <div>{r.entry?.title}</div>
            </td>
            <td>
              <Otherwise row={r} rulebook={rulebook} labelOf={labelOf} is={is} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What an entry says that is not what we say of the item. */
function Otherwise({
  row,
  rulebook,
  labelOf,
  is,
}: {
  row: ListingRow;
  rulebook: Rulebook;
  labelOf: (field: string) => string;
  is: Answer;
}) {
  const facts = row.entry?.facts ?? {};
  const shown =
    is === 'other'
      ? Object.keys(facts).map((field) => ({ field, ours: undefined }))
      : is === 'joined'
        ? row.findings
            .filter((f) => f.check === 'market-entry')
            .map((f): { field: string; ours: string | undefined } => ({
              field: f.field,
              ours: wordFact(rulebook, f.field, f.value),
            }))
        : findContradictions(rulebook, facts, row.values).map((field) => ({
            field,
            ours: wordFact(rulebook, field, row.values[field]),
          }));
  if (shown.length === 0) return <span className="quiet">{say`nothing`}</span>;
  return (
    <ul>
      {shown.map(({ field, ours }) => (
        <li key={field}>
          <span className="quiet">{labelOf(field)}:</span> <b>{wordFact(rulebook, field, facts[field])}</b>
          {ours !== undefined && <span className="quiet">{tell`, not ${ours}`}</span>}
        </li>
      ))}
    </ul>
  );
}

import { listValueMap, putValueMap } from '@basileus/contract';
import { matchedBy, type MatchedBy } from '@basileus/core/listing';
import type { Rulebook } from '@basileus/core/rulebook';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Choice } from '../ui/Choice';
import { Empty, Loading, Refused } from '../ui/faces';
import { ListPicker } from '../ui/ListPicker';
import { toast } from '../ui/messages';
import { Pager } from '../ui/Pager';
import { SearchBox } from '../ui/SearchBox';
import { count, plural, say } from '../ui/text';
import { oneOf, useUrlValue } from '../ui/url';
import { BringValues } from './BringValues';
import { NodeChoice } from './NodeChoice';
import { type SaidCode, TickedValues } from './TickedValues';
import { type ValuesAsked, valueMapQuery, valuesOnPage } from './queries';
import { createPathText } from './tree';
import { useFollowUp } from './useFollowUp';
import { writeValueTable } from './value-table';
import { tell } from '../ui/tell';

const how: Readonly<Record<MatchedBy, string>> = {
  nothing: say`not matched yet`,
  also: say`another word for it`,
  label: say`same word`,
  chosen: say`chosen by you`,
};
const noNodes: ReadonlyMap<string, string> = new Map();
const keyOf = (r: { attribute: string; ours: string }): string => `${r.attribute}\t${r.ours}`;
/** Values that a table which is taken out may have. */
const mostOut = 20_000;

/** Our values of choice attributes and what each becomes on a market: one by one, many at once, or as a table made elsewhere. */
export function ValuesView({ rulebook }: { rulebook: Rulebook }) {
  const { market, name } = useScope();
  const followUp = useFollowUp();
  const [node, setNode] = useUrlValue('for', ''),
    [attribute, setAttribute] = useUrlValue('attribute', ''),
    [search, setSearch] = useUrlValue('value', ''),
    [by, setBy] = useUrlValue('how', ''),
    [from, setFrom] = useUrlValue('from', '0');
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set()),
    [isBringing, setBringing] = useState(false);
  const asked: ValuesAsked = { node, attribute, search, by: oneOf(['', ...matchedBy], by) };
  const offset = Math.max(0, Number(from) || 0);
  const { data, error, isLoading, isPlaceholderData, refetch } = useQuery(valueMapQuery(market, asked, offset));
  const put = useMutation({
    mutationFn: (codes: readonly SaidCode[]) =>
      call(putValueMap, {
        params: { market },
        body: { node, codes: codes.map(({ attribute: a, ours, theirs }) => ({ attribute: a, ours, theirs })) },
      }),
    onSuccess: (followed, codes) => {
      // What was ticked meanwhile stays so.
      const done = new Set(codes.map(keyOf));
      setTicked((now) => new Set([...now].filter((k) => !done.has(k))));
      followUp(followed);
    },
    onError: (e) => toast.error(e.message),
  });
  const takeOut = useMutation({
    mutationFn: () => call(listValueMap, { params: { market }, query: { ...asked, from: 0, limit: mostOut } }),
    onSuccess: ({ rows }) => {
      saveAs(`values-${market}.csv`, writeValueTable(rows, rulebook));
    },
    onError: (e) => toast.error(e.message),
  });
  const pathOf = useMemo(() => createPathText(rulebook), [rulebook]);
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} again={refetch} />;
  const { rows, counts, attributes } = data;
  const entriesOf = (key: string) =>
    rulebook.codeLists[rulebook.attributes.find((a) => a.key === key)?.codes ?? '']?.entries ?? [];
  const narrow = (set: (v: string) => void) => (v: string) => {
    setFrom('0');
    setTicked(new Set());
    set(v);
  };
  const chosen = rows.filter((r) => ticked.has(keyOf(r)));
  const tick = (keys: readonly string[], isOn: boolean) => {
    const next = new Set(ticked);
    for (const k of keys)
      if (isOn) next.add(k);
      else next.delete(k);
    setTicked(next);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-2 px-5 pt-4 pb-3">
        <SearchBox label={say`Find one of our values`} width="w-52" value={search} onChange={narrow(setSearch)} />
        <Choice
          label={say`Attribute`}
          all={say`All attributes`}
          value={attribute}
          options={attributes.map((a) => [a.key, a.open > 0 ? say`${a.label}, ${count(a.open)} not matched` : a.label])}
          width="w-44"
          onChoose={narrow(setAttribute)}
        />
        <Choice
          label={say`How they are matched`}
          all={say`However matched`}
          value={by}
          options={matchedBy.map((b) => [b, `${how[b]}: ${count(counts[b])}`])}
          width="w-48"
          onChoose={narrow(setBy)}
        />
        <NodeChoice rulebook={rulebook} node={node} marked={noNodes} width="w-48" onChoose={narrow(setNode)} />
        <button
          type="button"
          className="btn btn-sm ms-auto"
          disabled={rows.length === 0 || takeOut.isPending}
          onClick={() => {
            takeOut.mutate();
          }}
        >
          {say`Take out as CSV`}
        </button>
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => {
            setBringing(true);
          }}
        >
          {say`Bring in a table …`}
        </button>
      </div>
      {chosen.length > 0 && (
        <TickedValues
          chosen={chosen}
          node={node}
          entriesOf={entriesOf}
          isBusy={put.isPending}
          onSay={(codes) => {
            put.mutate(codes);
          }}
        />
      )}
      {data.cut.length > 0 && (
        <p className="quiet px-5 pb-2 text-sm">
          {tell`Of ${data.cut.join(', ')} only the 5,000 values of most items are listed.`}
        </p>
      )}
      {rows.length === 0 ? (
        attributes.length === 0 ? (
          <Empty title={say`No values to match.`}>
            {say`When items carry colours, materials and the like, they show here beside the market’s list.`}
          </Empty>
        ) : data.total > 0 ? (
          // Values that were matched have left the last page of those that are not.
          <Empty title={say`Nothing is left on this page.`}>
            <button
              type="button"
              className="underline"
              onClick={() => {
                setFrom('0');
              }}
            >
              {say`Go to the first page`}
            </button>{' '}
            {tell`of ${plural(data.total, 'value', 'values')}.`}
          </Empty>
        ) : (
          <Empty title={say`No value is so.`}>{say`Clear a filter, or look for another word.`}</Empty>
        )
      ) : (
        <div className="min-h-0 flex-1 overflow-auto border-t border-base-300 p-5" aria-busy={isPlaceholderData}>
          <table className="plain-table panel">
            <thead>
              <tr>
                <th className="w-8">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs"
                    aria-label={say`Tick all shown`}
                    disabled={isPlaceholderData || put.isPending}
                    checked={chosen.length === rows.length}
                    onChange={(e) => {
                      tick(rows.map(keyOf), e.target.checked);
                    }}
                  />
                </th>
                <th>{say`Attribute`}</th>
                <th>{say`Our value`}</th>
                <th className="text-end">{say`Items`}</th>
                <th>{tell`Their value on ${name}`}</th>
                <th>{say`How`}</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr key={keyOf(r)}>
                  <td>
                    <input
                      type="checkbox"
                      className="checkbox checkbox-xs"
                      aria-label={say`Tick ${r.ours}, ${r.label}`}
                      disabled={isPlaceholderData || put.isPending}
                      checked={ticked.has(keyOf(r))}
                      onChange={(e) => {
                        tick([keyOf(r)], e.target.checked);
                      }}
                    />
                  </td>
                  <td>{r.label}</td>
                  <td className="font-semibold break-words">{r.ours}</td>
                  <td className="num text-end">{count(r.items)}</td>
                  <td>
                    <div className="flex flex-wrap items-center gap-2">
                      <ListPicker
                        label={say`Their value for ${r.ours}`}
                        placeholder={say`none`}
                        options={entriesOf(r.attribute)}
                        value={r.theirs ?? ''}
                        disabled={put.isPending}
                        onChoose={(theirs) => {
                          if (theirs !== r.theirs || r.node !== node) put.mutate([{ ...r, theirs }]);
                        }}
                      />
                      {r.proposals.map((p) => (
                        <button
                          key={p.code}
                          type="button"
                          className="btn btn-xs"
                          disabled={put.isPending}
                          onClick={() => {
                            put.mutate([{ ...r, theirs: p.code }]);
                          }}
                        >
                          {p.label}?
                          {p.there && (
                            <span className="font-normal quiet">
                              {p.there.label === p.label
                                ? say`as on ${p.there.market}`
                                : say`“${p.there.label}” on ${p.there.market}`}
                            </span>
                          )}
                        </button>
                      ))}
                    </div>
                  </td>
                  <td className={r.by === 'nothing' ? 'text-error' : 'quiet'}>
                    {how[r.by]}
                    {r.node !== null && r.node !== '' && say`, for ${pathOf(r.node)}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Pager
            offset={offset}
            size={valuesOnPage}
            total={data.total}
            onGo={(n) => {
              setTicked(new Set());
              setFrom(String(n));
            }}
          />
        </div>
      )}
      {isBringing && (
        <BringValues
          node={node}
          rulebook={rulebook}
          isBusy={put.isPending}
          onTake={(codes) => {
            put.mutate(codes, {
              onSuccess: () => {
                setBringing(false);
              },
            });
          }}
          onClose={() => {
            setBringing(false);
          }}
        />
      )}
    </div>
  );
}

/** Gives a text as a file; spreadsheets know by the mark at its beginning that it is UTF-8. */
function saveAs(name: string, text: string): void {
  const url = URL.createObjectURL(new Blob([`\uFEFF${text}`], { type: 'text/csv;charset=utf-8' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}

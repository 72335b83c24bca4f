import { putFieldMap, putValueMap } from '@basileus/contract';
import type { Rulebook } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Empty, Loading, Refused } from '../ui/faces';
import { count, plural } from '../ui/text';
import { fieldMapQuery, valueMapQuery } from './queries';

/** The tables of fields and of values: made once, used for every item. */
export function CorrespondencesView({ view, rulebook }: { view: 'fields' | 'values'; rulebook: Rulebook }) {
  return view === 'fields' ? <FieldsTable /> : <ValuesTable rulebook={rulebook} />;
}

function useFollowUp() {
  const client = useQueryClient();
  return (r: { refreshed: number; job: string | null }) => {
    toast.success(
      r.job
        ? 'Kept; all listings are being checked anew.'
        : `Kept; ${plural(r.refreshed, 'listing was', 'listings were')} checked anew.`,
    );
    void client.invalidateQueries({ queryKey: ['listings'] });
    void client.invalidateQueries({ queryKey: ['overview'] });
  };
}

function FieldsTable() {
  const { market, name } = useScope();
  const followUp = useFollowUp();
  const [text, setText] = useState('');
  const { data, error, isLoading } = useQuery(fieldMapQuery(market));
  const put = useMutation({
    mutationFn: (v: { attribute: string; source: string | null }) =>
      call(putFieldMap, { params: { market, attribute: v.attribute }, body: { source: v.source } }),
    onSuccess: followUp,
    onError: (e) => toast.error(e.message),
  });
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} />;
  const rows = data.rows.filter((r) => r.label.toLowerCase().includes(text.toLowerCase()));
  return (
    <div className="min-h-0 flex-1 overflow-auto p-5">
      <input
        type="search"
        className="input input-sm mb-3 w-64"
        aria-label="Find an attribute"
        placeholder="Find an attribute"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
        }}
      />
      <table className="plain-table panel">
        <thead>
          <tr>
            <th>Attribute on {name}</th>
            <th>Filled from</th>
            <th>The same for all</th>
            <th className="text-right">Filled</th>
            <th className="text-right">Demanded</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => {
            const now = r.chosen ?? '(suggested)';
            const isFixed = r.chosen?.startsWith('=') ?? false;
            return (
              <tr key={r.attribute}>
                <td>
                  {r.label}
                  <span className="num block text-xs quiet">{r.attribute}</span>
                </td>
                <td>
                  <select
                    className="select select-sm w-56"
                    aria-label={`Source of ${r.label}`}
                    disabled={put.isPending}
                    value={isFixed ? '=' : now}
                    onChange={(e) => {
                      const v = e.target.value;
                      if (v !== '=') put.mutate({ attribute: r.attribute, source: v === '(suggested)' ? null : v });
                    }}
                  >
                    <option value="(suggested)">
                      {r.suggested
                        ? `as suggested: ${data.ours.find((o) => o.key === r.suggested)?.label ?? r.suggested}`
                        : 'nothing suggested'}
                    </option>
                    <option value="">nothing</option>
                    {isFixed && <option value="=">the same text for all</option>}
                    {data.ours.map((o) => (
                      <option key={o.key} value={o.key}>
                        {o.label}
                      </option>
                    ))}
                  </select>
                </td>
                <td>
                  <input
                    className="input input-sm w-36"
                    aria-label={`Same text for ${r.label}`}
                    placeholder="none"
                    key={r.chosen}
                    defaultValue={isFixed ? r.chosen!.slice(1) : ''}
                    onKeyDown={(e) => {
                      if (e.key === 'Enter') e.currentTarget.blur();
                    }}
                    onBlur={(e) => {
                      const v = e.target.value.trim();
                      if (v !== (isFixed ? r.chosen!.slice(1) : ''))
                        put.mutate({ attribute: r.attribute, source: v ? `=${v}` : null });
                    }}
                  />
                </td>
                <td className="num text-right">{count(r.filled)}</td>
                <td className={`num text-right ${r.demanded > r.filled ? 'text-error' : ''}`}>{count(r.demanded)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function ValuesTable({ rulebook }: { rulebook: Rulebook }) {
  const { market, name } = useScope();
  const followUp = useFollowUp();
  const { data, error, isLoading } = useQuery(valueMapQuery(market));
  const put = useMutation({
    mutationFn: (v: { attribute: string; ours: string; theirs: string | null }) =>
      call(putValueMap, { params: { market }, body: v }),
    onSuccess: followUp,
    onError: (e) => toast.error(e.message),
  });
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} />;
  if (data.rows.length === 0)
    return (
      <Empty title="No values to match.">
        When items carry colours, materials and the like, they show here beside the market’s list.
      </Empty>
    );
  const entries = (attribute: string) =>
    rulebook.codeLists[rulebook.attributes.find((a) => a.key === attribute)?.codes ?? '']?.entries ?? [];
  const how = { mapping: 'chosen by you', label: 'same word', also: 'another word for it', nothing: 'not matched yet' };
  return (
    <div className="min-h-0 flex-1 overflow-auto p-5">
      <table className="plain-table panel">
        <thead>
          <tr>
            <th>Attribute</th>
            <th>Our value</th>
            <th className="text-right">Items</th>
            <th>Their value on {name}</th>
            <th>How</th>
          </tr>
        </thead>
        <tbody>
          {data.rows.map((r) => (
            <tr key={`${r.attribute}/${r.ours}`}>
              <td>{r.label}</td>
              <td className="font-semibold">{r.ours}</td>
              <td className="num text-right">{count(r.items)}</td>
              <td>
                <select
                  className="select select-sm w-52"
                  aria-label={`Their value for ${r.ours}`}
                  value={r.theirs ?? ''}
                  disabled={put.isPending}
                  onChange={(e) => {
                    put.mutate({ attribute: r.attribute, ours: r.ours, theirs: e.target.value || null });
                  }}
                >
                  <option value="">none</option>
                  {entries(r.attribute).map((e) => (
                    <option key={e.code} value={e.code}>
                      {e.label} ({e.code})
                    </option>
                  ))}
                </select>
                {r.by === 'nothing' &&
                  r.proposals.map((p) => (
                    <button
                      key={p.code}
                      type="button"
                      className="btn btn-xs ml-2"
                      onClick={() => {
                        put.mutate({ attribute: r.attribute, ours: r.ours, theirs: p.code });
                      }}
                    >
                      {p.label}?
                    </button>
                  ))}
              </td>
              <td className={r.by === 'nothing' ? 'text-error' : 'quiet'}>{how[r.by]}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

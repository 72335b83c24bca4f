import { type listRates, putRate } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { z } from 'zod';
import { call } from '../api/call';
import { Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { when, say } from '../ui/text';
import { ratesQuery } from './queries';
import { tell } from '../ui/tell';

type Rate = z.output<typeof listRates.response>['rows'][number];

/** Rates of the currencies in which a market sells. They hold for every market. */
export function Rates({ market }: { market: string }) {
  const { data } = useQuery(ratesQuery);
  const rows = data?.rows.filter((r) => r.markets.includes(market)) ?? [];
  if (!data || rows.length === 0) return null;
  return (
    <section className="panel flex flex-col gap-3 p-4">
      <h2 className="text-lg">{say`Rates`}</h2>
      <p className="quiet">
        {tell`What one ${data.house} buys, so that the cost of an item can be set against its price. A rate holds for every market that sells in the currency.`}
      </p>
      {rows.map((r) => (
        <RateLine key={r.currency} rate={r} house={data.house} />
      ))}
    </section>
  );
}

function RateLine({ rate: r, house }: { rate: Rate; house: string }) {
  const client = useQueryClient();
  const [text, setText] = useState(r.rate ?? '');
  const put = useMutation({
    mutationFn: () => call(putRate, { params: { currency: r.currency }, body: { rate: text.trim() } }),
    onSuccess: () => {
      toast.success(say`The rate of ${r.currency} is kept; prices in it are being checked anew.`);
      void client.invalidateQueries();
    },
  });
  return (
    <form
      className="flex flex-wrap items-center gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        put.mutate();
      }}
    >
      <label className="flex items-center gap-2">
        <span className="num">1 {house} =</span>
        <input
          className="input input-sm num w-28 text-end"
          aria-label={say`Rate of ${r.currency}`}
          inputMode="decimal"
          value={text}
          onChange={(e) => {
            setText(e.target.value);
          }}
        />
        <span className="num">{r.currency}</span>
      </label>
      <button type="submit" className="btn btn-sm" disabled={put.isPending || text.trim() === '' || text === r.rate}>
        {say`Keep`}
      </button>
      <span className="quiet text-sm">
        {r.at === null ? say`Nobody has said it yet.` : `${r.by ?? ''}, ${when(r.at)}`}
      </span>
      {put.error && (
        <div className="basis-full">
          <Refused error={put.error} />
        </div>
      )}
    </form>
  );
}

import type { changeMarket, readMarket } from '@basileus/contract';
import { listEndings, makePrice, type PriceRule } from '@basileus/core/pricing';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { z } from 'zod';
import { ratesQuery } from './queries';
import { say } from '../ui/text';

type Settings = z.output<typeof readMarket.response>['settings'];
type Change = z.input<typeof changeMarket.body>;

const plainRule: PriceRule = { percent: '0', round: null };
/** A house price of every day, to show what a rule makes of it. */
const sample = '24.50';
const percentPattern = /^-?\d{1,3}(\.\d{1,4})?$/;

const keyOf = (round: PriceRule['round']): string => (round === null ? '' : `${round.step}/${round.ending}`);

/** For each currency of a market, whether prices are made of the house price where an item has none of its own, and how. */
export function MadePrices({
  market,
  settings,
  isBusy,
  onSave,
}: {
  market: string;
  settings: Settings;
  isBusy: boolean;
  onSave: (change: Change) => void;
}) {
  const { data } = useQuery(ratesQuery);
  const [rules, setRules] = useState<Readonly<Record<string, PriceRule>>>(settings.prices);
  const rates = data?.rows.filter((r) => r.markets.includes(market)) ?? [];
  if (!data || rates.length === 0) return null;
  const put = (currency: string, rule: PriceRule | undefined): void => {
    const { [currency]: _, ...others } = rules;
    setRules(rule === undefined ? others : { ...others, [currency]: rule });
  };
  const isGood = Object.values(rules).every((r) => percentPattern.test(r.percent) && Number(r.percent) > -100);
  return (
    <form
      className="panel flex flex-col gap-3 p-4"
      onSubmit={(e) => {
        e.preventDefault();
        onSave({ settings: { ...settings, prices: rules } });
      }}
    >
      <h2 className="text-lg">{say`Prices made of the house price`}</h2>
      <p className="quiet">
        {say`For items that have no price of their own in the currency. A price that stands at the item, or is typed at the listing, counts before it.`}
      </p>
      {rates.map((r) => (
        <RuleLine
          key={r.currency}
          currency={r.currency}
          house={data.house}
          rate={r.rate}
          rule={rules[r.currency]}
          onPut={(rule) => {
            put(r.currency, rule);
          }}
        />
      ))}
      <button
        type="submit"
        className="btn btn-sm btn-primary w-fit"
        disabled={isBusy || !isGood || JSON.stringify(rules) === JSON.stringify(settings.prices)}
      >
        {say`Save, and check everything anew`}
      </button>
    </form>
  );
}

function RuleLine({
  currency,
  house,
  rate,
  rule,
  onPut,
}: {
  currency: string;
  house: string;
  rate: string | null;
  rule: PriceRule | undefined;
  onPut: (rule: PriceRule | undefined) => void;
}) {
  const endings = listEndings(currency);
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
      <label className="flex w-40 items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={rule !== undefined}
          onChange={(e) => {
            onPut(e.target.checked ? plainRule : undefined);
          }}
        />
        <span>
          {say`Make prices in `}
          <span className="num">{currency}</span>
        </span>
      </label>
      {rule && (
        <>
          <label className="flex items-center gap-2">
            <span className="text-sm">{say`with`}</span>
            <input
              className="input input-sm num w-20 text-end"
              aria-label={say`Percent on top, ${currency}`}
              inputMode="decimal"
              value={rule.percent}
              onChange={(e) => {
                onPut({ ...rule, percent: e.target.value.trim() });
              }}
            />
            <span className="text-sm">{say`% on top`}</span>
          </label>
          <select
            className="select select-sm w-48"
            aria-label={say`Ending, ${currency}`}
            value={keyOf(rule.round)}
            onChange={(e) => {
              onPut({ ...rule, round: endings.find((x) => keyOf(x) === e.target.value) ?? null });
            }}
          >
            <option value="">{say`as it comes out`}</option>
            {endings.map((x) => (
              <option key={keyOf(x)} value={keyOf(x)}>
                {wordEnding(x)}
              </option>
            ))}
          </select>
          <span className="quiet basis-full text-sm" role="status">
            {rate === null
              ? say`Its rate is not said yet, so nothing is made; say it above.`
              : percentPattern.test(rule.percent)
                ? say`${sample} ${house} becomes ${makePrice(sample, rate, rule, currency)} ${currency}.`
                : say`Percent are a number with a point, such as 7.5 or -16.7.`}
          </span>
        </>
      )}
    </div>
  );
}

/** An ending as people say it: “up to what ends in .99”, “up to the next full 100”. */
const wordEnding = ({ step, ending }: { step: string; ending: string }): string =>
  ending === '0'
    ? say`up to the next ${step === '1' ? say`whole one` : say`full ${step}`}`
    : say`up to what ends in ${step === '1' ? ending.slice(1) : ending}`;

import type { changeMarket, readMarket } from '@basileus/contract';
import { computePublishable, shareOut } from '@basileus/core/stock';
import { useState } from 'react';
import type { z } from 'zod';
import { count, say } from '../ui/text';

type Connection = z.output<typeof readMarket.response>;

/** Stock of every day, to show what the rules make of it. */
const samples = [3, 10, 100];
const toNumber = (text: string): number | null => (text === '' ? null : Number(text));

/** What of the stock a market is told: what is kept back, the least and the most, and its part where markets share it out. */
export function StockRules({
  connection: c,
  isBusy,
  onSave,
}: {
  connection: Connection;
  isBusy: boolean;
  onSave: (change: z.input<typeof changeMarket.body>) => void;
}) {
  const [buffer, setBuffer] = useState(String(c.settings.buffer)),
    [least, setLeast] = useState(String(c.settings.least)),
    [most, setMost] = useState(String(c.settings.most ?? '')),
    [weight, setWeight] = useState(String(c.settings.weight ?? ''));
  const settings = {
    ...c.settings,
    buffer: Number(buffer),
    least: Number(least),
    most: toNumber(most),
    weight: toNumber(weight),
  };
  const isNew = (['buffer', 'least', 'most', 'weight'] as const).some((k) => settings[k] !== c.settings[k]);
  const others = c.sharing.filter((s) => s.key !== c.key);
  // In the order in which the server shares out, this market among the others.
  const sharing = settings.weight === null ? [] : listSharing(c, settings.weight);
  const mine = sharing.findIndex((s) => s.key === c.key);
  const isShared = sharing.length > 1;
  return (
    <form
      className="panel flex flex-col gap-3 p-4"
      onSubmit={(e) => {
        e.preventDefault();
        onSave({ settings });
      }}
    >
      <h2 className="text-lg">{say`Stock that is published`}</h2>
      <Pieces label={say`Pieces kept back, of what is free`} value={buffer} onChange={setBuffer} />
      <Pieces
        label={say`The least that is shown; under it the market is told there is none`}
        value={least}
        onChange={setLeast}
      />
      <Pieces
        label={say`The most that is shown; empty for as much as the market takes`}
        value={most}
        min={1}
        isOptional
        onChange={setMost}
      />
      <Pieces
        label={say`Its weight where markets share the stock out; empty to show all of it here`}
        value={weight}
        min={1}
        max={1000}
        isOptional
        onChange={setWeight}
      />
      <p className="quiet text-sm">
        {others.length > 0
          ? say`Shared out among: ${others.map((s) => `${s.name} (${count(s.weight)})`).join(', ')}.`
          : say`No other market shares stock out: a piece that one shows, the others show too.`}
        {isShared && say` Where an item is left out or withdrawn, nothing is kept for that market.`}
      </p>
      <table className="plain-table w-fit">
        <caption className="quiet pb-1 text-start text-sm whitespace-nowrap">{say`What is shown of so many free pieces`}</caption>
        <thead>
          <tr>
            <th className="text-end">{say`Free`}</th>
            <th className="text-end">{c.name}</th>
            {isShared &&
              others.map((s) => (
                <th key={s.key} className="text-end">
                  {s.name}
                </th>
              ))}
          </tr>
        </thead>
        <tbody>
          {samples.map((free) => {
            const parts = shareOut(
              free,
              sharing.map((s) => s.weight),
            );
            return (
              <tr key={free}>
                <td className="num text-end">{count(free)}</td>
                <td className="num text-end font-semibold">
                  {count(
                    computePublishable(
                      { onHand: free, reserved: 0 },
                      {
                        buffer: settings.buffer,
                        least: settings.least,
                        cap: settings.most ?? Infinity,
                        ...(isShared ? { share: { weights: sharing.map((s) => s.weight), mine } } : {}),
                      },
                    ),
                  )}
                </td>
                {isShared &&
                  others.map((s) => (
                    <td key={s.key} className="num text-end">
                      {count(parts[sharing.findIndex((x) => x.key === s.key)] ?? 0)}
                    </td>
                  ))}
              </tr>
            );
          })}
        </tbody>
      </table>
      {isShared && (
        <p className="quiet text-sm">
          {say`What the other markets keep back and cap by their own rules is not reckoned in here.`}
        </p>
      )}
      <button type="submit" className="btn btn-sm btn-primary w-fit" disabled={isBusy || !isNew}>
        {say`Save, and check everything anew`}
      </button>
    </form>
  );
}

/** Markets that share, with the weight that is typed here for this one, in their order. */
function listSharing(c: Connection, weight: number): { key: string; name: string; weight: number }[] {
  const me = { key: c.key, name: c.name, weight };
  return c.sharing.some((s) => s.key === c.key)
    ? c.sharing.map((s) => (s.key === c.key ? me : s))
    : c.sharing.toSpliced(c.sharingBefore, 0, me);
}

function Pieces({
  label,
  value,
  min = 0,
  max = 100_000,
  isOptional = false,
  onChange,
}: {
  label: string;
  value: string;
  min?: number;
  max?: number;
  isOptional?: boolean;
  onChange: (v: string) => void;
}) {
  return (
    <label className="flex items-center gap-3">
      <input
        type="number"
        min={min}
        max={max}
        required={!isOptional}
        className="input input-sm num w-24 text-end"
        value={value}
        onChange={(e) => {
          onChange(e.target.value);
        }}
      />
      <span className="text-sm">{label}</span>
    </label>
  );
}

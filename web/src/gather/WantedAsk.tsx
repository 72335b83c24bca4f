import { wantItems } from '@basileus/contract';
import type { Which } from '@basileus/core/choose';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Modal } from '../ui/Modal';
import { plural, say } from '../ui/text';
import { wordSite, wordWanted } from '../ui/wanted';
import { tell } from '../ui/tell';

type Choice = '' | 'wanted' | 'left out';

/** On which markets the chosen items are wanted. What is left as it is stays so. */
export function WantedAsk({ which, items, onClose }: { which: Which; items: number; onClose: () => void }) {
  const { markets } = useScope();
  const client = useQueryClient();
  const [choices, setChoices] = useState<Readonly<Record<string, Choice>>>({});
  /** A market as a whole, and each of its sites that can be left out by itself. */
  const places = markets.flatMap((m) => [
    { name: m.name, key: m.key, market: m.key, sites: [] as string[] },
    ...m.sites
      .filter((s) => s.optional)
      .map((s) => ({ name: s.name, key: `${m.key}/${s.key}`, market: m.key, sites: [s.key] })),
  ]);
  const chosen = places.filter((p) => choices[p.key]);
  const apply = useMutation({
    mutationFn: async () => {
      const said: string[] = [];
      for (const m of chosen) {
        const wanted = choices[m.key] === 'wanted';
        const outcome = await call(wantItems, { body: { which, market: m.market, wanted, sites: m.sites } });
        said.push(m.sites.length > 0 ? wordSite(m.name, wanted, outcome.changed) : wordWanted(m.name, wanted, outcome));
      }
      return said;
    },
    onSuccess: (said) => {
      toast.success(said.join(' '));
      void client.invalidateQueries();
      onClose();
    },
    onError: (e) => toast.error(e.message),
  });
  return (
    <Modal title={say`Markets for ${plural(items, 'item', 'items')}`} onClose={onClose}>
      <div className="flex flex-col gap-3 p-5">
        <p className="quiet">
          {tell`What is left out of a market is asked for nothing there, and nothing of it goes. A family takes its variants along. What stands on a market already stays until it is withdrawn${
            places.some((p) => p.sites.length > 0) &&
            say`; what stands at one of its sites that is left out ends with the next sending`
          }.`}
        </p>
        <table className="plain-table">
          <tbody>
            {places.map((m) => (
              <tr key={m.key}>
                <th scope="row" className={`text-start font-normal ${m.sites.length > 0 ? 'ps-8! quiet' : ''}`}>
                  {m.name}
                </th>
                <td>
                  <select
                    className="select select-sm"
                    aria-label={say`On ${m.name}`}
                    value={choices[m.key] ?? ''}
                    onChange={(e) => {
                      setChoices({ ...choices, [m.key]: e.target.value as Choice });
                    }}
                  >
                    <option value="">{say`as it is`}</option>
                    <option value="wanted">{say`wanted`}</option>
                    <option value="left out">{say`left out`}</option>
                  </select>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="flex gap-2">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={chosen.length === 0 || apply.isPending}
            onClick={() => {
              apply.mutate();
            }}
          >
            {tell`Apply to ${plural(chosen.length, 'place', 'places')}`}
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            {say`Cancel`}
          </button>
        </div>
      </div>
    </Modal>
  );
}

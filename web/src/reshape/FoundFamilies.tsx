import { type findFamiliesAmong, makeFamilies } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { z } from 'zod';
import { call } from '../api/call';
import { useFields } from '../own/fields';
import { Loading, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { plural, say } from '../ui/text';
import { familiesAmongQuery } from './queries';

type Found = z.output<typeof findFamiliesAmong.response>['families'][number];
/** Families that are shown; more of them are made in another turn. */
const mostShown = 200;

/** Families that are found among items: all that are ticked are made at once, under the SKUs and titles that stand there. */
export function FoundFamilies({ ids, onClose }: { ids: readonly number[]; onClose: () => void }) {
  const client = useQueryClient(),
    { labelOf } = useFields();
  const { data, error } = useQuery(familiesAmongQuery(ids));
  const [without, setWithout] = useState<ReadonlySet<number>>(new Set()),
    [said, setSaid] = useState<ReadonlyMap<number, Partial<Pick<Found, 'sku' | 'title'>>>>(new Map());
  const shown = data?.families.slice(0, mostShown) ?? [];
  const chosen = shown.flatMap((f, i) => (without.has(f.ids[0]!) ? [] : [{ ...f, ...said.get(i) }]));
  const items = chosen.reduce((n, f) => n + f.ids.length, 0);
  const make = useMutation({
    mutationFn: () => call(makeFamilies, { body: { families: chosen.map(({ variants: _, ...family }) => family) } }),
    onSuccess: ({ moved }) => {
      toast.success(
        say`${plural(moved, 'item is', 'items are')} in ${plural(chosen.length, 'new family', 'new families')}.`,
      );
      void client.invalidateQueries();
      onClose();
    },
  });
  if (error) return <Refused error={error} />;
  if (!data) return <Loading what={say`Looking for families`} />;
  if (shown.length === 0)
    return (
      <p className="quiet">
        {say`None of these are called the same but for a colour, a size or another field that variants may differ by.`}
      </p>
    );
  const put = (at: number, part: Partial<Pick<Found, 'sku' | 'title'>>) => {
    setSaid(new Map(said).set(at, { ...said.get(at), ...part }));
  };
  return (
    <>
      <div className="max-h-[50vh] overflow-auto">
        <table className="plain-table">
          <thead>
            <tr>
              <th className="w-8" />
              <th>{say`SKU of the family`}</th>
              <th>{say`Title`}</th>
              <th>{say`Variants`}</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((f, i) => (
              <tr key={f.ids[0]}>
                <td>
                  <input
                    type="checkbox"
                    className="checkbox checkbox-sm"
                    aria-label={say`Make ${f.sku}`}
                    checked={!without.has(f.ids[0]!)}
                    onChange={(e) => {
                      const next = new Set(without);
                      if (e.target.checked) next.delete(f.ids[0]!);
                      else next.add(f.ids[0]!);
                      setWithout(next);
                    }}
                  />
                </td>
                <td>
                  <input
                    className="input input-xs num w-32"
                    aria-label={say`SKU of ${f.sku}`}
                    maxLength={60}
                    defaultValue={f.sku}
                    onChange={(e) => {
                      put(i, { sku: e.target.value });
                    }}
                  />
                </td>
                <td>
                  <input
                    className="input input-xs w-full"
                    aria-label={say`Title of ${f.sku}`}
                    defaultValue={f.title}
                    onChange={(e) => {
                      put(i, { title: e.target.value });
                    }}
                  />
                </td>
                <td>
                  {say`${plural(f.variants.length, 'variant', 'variants')} by ${f.axes.map(labelOf).join(say` and `)}`}
                  <div className="quiet line-clamp-2 text-xs">
                    {f.variants.map((v) => `${v.sku} ${v.says.join(', ')}`).join(' · ')}
                  </div>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {data.families.length > mostShown && (
        <p className="quiet">
          {say`${plural(data.families.length - mostShown, 'more family is', 'more families are')} found; make these first.`}
        </p>
      )}
      {data.left > 0 && (
        <p className="quiet">{say`${plural(data.left, 'item is called like no other and stays by itself', 'items are called like no other and stay by themselves')}.`}</p>
      )}
      {make.error && <Refused error={make.error} />}
      <div className="flex gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={chosen.length === 0 || make.isPending}
          onClick={() => {
            make.mutate();
          }}
        >
          {say`Put ${plural(items, 'item', 'items')} into ${plural(chosen.length, 'new family', 'new families')}`}
        </button>
        <button type="button" className="btn btn-sm" onClick={onClose}>
          {say`Leave them`}
        </button>
      </div>
    </>
  );
}

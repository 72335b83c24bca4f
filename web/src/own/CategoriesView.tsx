import { changeOwnCategory, createOwnCategory, removeOwnCategory } from '@basileus/contract';
import type { CategoryNode } from '@basileus/core/product';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Link } from 'react-router';
import { call, CallError } from '../api/call';
import { ownCategoriesQuery, useOwnTree } from './fields';
import { Empty, Loading, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { count, plural, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { tell } from '../ui/tell';

type Node = CategoryNode & { items: number };

/** Our own categories as a tree; the chosen one can be moved, renamed, put together with another one, or removed. */
export function CategoriesView() {
  const { error, isLoading } = useQuery(ownCategoriesQuery);
  const tree = useOwnTree();
  const [open, setOpen] = useUrlValue('category');
  if (error) return <Refused error={error} />;
  if (isLoading) return <Loading />;
  const chosen = tree.find((c) => c.name === open);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 lg:grid-cols-[minmax(0,1fr)_26rem]">
      <div className="min-h-0 overflow-auto p-5">
        {tree.length === 0 ? (
          <Empty title={say`There are no categories yet.`}>{say`They come with items, or are added beside.`}</Empty>
        ) : (
          <table className="plain-table panel">
            <thead>
              <tr>
                <th>{say`Category`}</th>
                <th className="text-end">{say`Items`}</th>
                <th className="text-end">{say`With those under it`}</th>
              </tr>
            </thead>
            <tbody>
              {tree.map((c) => (
                <tr key={c.name} className={c.name === open ? 'bg-primary/8' : ''}>
                  <td style={{ paddingInlineStart: `${0.6 + (c.path.length - 1) * 1.4}rem` }}>
                    <button
                      type="button"
                      className="text-start underline decoration-base-300 underline-offset-2 hover:decoration-current"
                      aria-current={c.name === open ? 'true' : undefined}
                      onClick={() => {
                        setOpen(c.name);
                      }}
                    >
                      {c.name}
                    </button>
                  </td>
                  <td className="num text-end">{c.items === 0 ? '' : count(c.items)}</td>
                  <td className="num text-end">
                    <Link
                      className="underline decoration-base-300 underline-offset-2"
                      to={`/all/gather?category=${encodeURIComponent(c.name)}`}
                      aria-label={say`Items of ${c.name} in the catalog`}
                    >
                      {count(c.withThoseUnder)}
                    </Link>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
      <aside
        className="min-h-0 overflow-auto border-base-300 max-lg:border-t lg:border-s"
        aria-label={say`The category`}
      >
        {chosen && <OneCategory key={chosen.name} category={chosen} tree={tree} onOpen={setOpen} />}
        <AddCategory key={`under ${open}`} parent={chosen?.name ?? null} onAdded={setOpen} />
      </aside>
    </div>
  );
}

function useSaying(after: string | undefined, onDone: (name: string) => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (deed: () => Promise<string>) => deed(),
    onSuccess: async (said) => {
      toast.success(said);
      await client.invalidateQueries({ queryKey: ['own'] });
      void client.invalidateQueries({ queryKey: ['products'] });
      if (after !== undefined) onDone(after);
    },
  });
}

const Refusal = ({ error }: { error: unknown }) =>
  error instanceof CallError ? (
    <p role="alert" className="text-error">
      {error.body.message} {error.body.remedy}
    </p>
  ) : null;

function OneCategory({
  category: c,
  tree,
  onOpen,
}: {
  category: Node;
  tree: readonly Node[];
  onOpen: (name: string) => void;
}) {
  const [name, setName] = useState(c.name);
  const to = name.trim();
  const other = to === c.name ? undefined : tree.find((o) => o.name === to);
  const moving = useSaying(undefined, onOpen),
    renaming = useSaying(to, onOpen),
    removing = useSaying('', onOpen);
  return (
    <section className="flex flex-col gap-4 border-b border-base-300 p-5" aria-label={say`Category ${c.name}`}>
      <div>
        <h2 className="text-lg">{c.name}</h2>
        <p className="text-xs quiet">{c.path.slice(0, -1).join(' › ') || say`At the top`}</p>
      </div>
      <label className="flex flex-col gap-1">
        <span className="text-xs">{say`Stands under`}</span>
        <select
          className="select select-sm w-full"
          value={c.parent ?? ''}
          disabled={moving.isPending}
          onChange={(e) => {
            const parent = e.target.value === '' ? null : e.target.value;
            moving.mutate(async () => {
              await call(changeOwnCategory, { body: { name: c.name, parent } });
              return parent === null
                ? say`${c.name} stands at the top now.`
                : say`${c.name} stands under ${parent} now.`;
            });
          }}
        >
          <option value="">{say`nothing, at the top`}</option>
          {tree
            .filter((o) => !o.path.includes(c.name))
            .map((o) => (
              <option key={o.name} value={o.name}>
                {'\u2003'.repeat(o.path.length - 1)}
                {o.name}
              </option>
            ))}
        </select>
        <Refusal error={moving.error} />
      </label>
      <form
        className="flex flex-col gap-1"
        onSubmit={(e) => {
          e.preventDefault();
          renaming.mutate(async () => {
            const { job, items } = await call(changeOwnCategory, { body: { name: c.name, rename: to } });
            return job === null
              ? say`${c.name} is called ${to} now.`
              : say`${plural(items, 'item moves', 'items move')} to ${to}; it can be taken back in the change history.`;
          });
        }}
      >
        <label className="flex flex-col gap-1">
          <span className="text-xs">{say`Name; that of another one puts the two together`}</span>
          <input
            className="input input-sm w-full"
            list="own-categories"
            maxLength={200}
            value={name}
            onChange={(e) => {
              setName(e.target.value);
            }}
          />
        </label>
        <datalist id="own-categories">
          {tree.map((o) => (
            <option key={o.name} value={o.name} />
          ))}
        </datalist>
        <div className="flex items-center gap-3">
          <button type="submit" className="btn btn-sm" disabled={to === '' || to === c.name || renaming.isPending}>
            {other ? say`Put together` : say`Rename`}
          </button>
          {other && (
            <span className="text-xs quiet">
              {tell`${plural(c.items, 'item goes', 'items go')} to ${other.name}, which has ${count(other.items)}.`}
            </span>
          )}
        </div>
        <Refusal error={renaming.error} />
      </form>
      <div>
        <button
          type="button"
          className="btn btn-sm"
          disabled={c.items > 0 || removing.isPending}
          onClick={() => {
            removing.mutate(async () => {
              await call(removeOwnCategory, { body: { name: c.name } });
              return say`${c.name} was removed.`;
            });
          }}
        >
          {say`Remove it`}
        </button>
        {c.items > 0 && (
          <p className="mt-1 text-xs quiet">
            {tell`${plural(c.items, 'item is', 'items are')} in it; put it together with another one instead.`}
          </p>
        )}
        <Refusal error={removing.error} />
      </div>
    </section>
  );
}

function AddCategory({ parent, onAdded }: { parent: string | null; onAdded: (name: string) => void }) {
  const [name, setName] = useState(''),
    [isUnder, setUnder] = useState(parent !== null);
  const adding = useSaying(name.trim(), onAdded);
  const add = (e: FormEvent) => {
    e.preventDefault();
    adding.mutate(async () => {
      await call(createOwnCategory, { body: { name: name.trim(), parent: isUnder ? parent : null } });
      return say`${name.trim()} is there now.`;
    });
  };
  return (
    <form className="flex flex-col gap-2 p-5" onSubmit={add} aria-label={say`Add a category`}>
      <label className="flex flex-col gap-1">
        <span className="text-xs">{say`A new category`}</span>
        <input
          className="input input-sm w-full"
          maxLength={200}
          value={name}
          onChange={(e) => {
            setName(e.target.value);
          }}
        />
      </label>
      {parent !== null && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={isUnder}
            onChange={(e) => {
              setUnder(e.target.checked);
            }}
          />
          {tell`under ${parent}`}
        </label>
      )}
      <Refusal error={adding.error} />
      <button type="submit" className="btn btn-sm self-start" disabled={name.trim() === '' || adding.isPending}>
        {say`Add it`}
      </button>
    </form>
  );
}

import { keepView, removeView, type TableLayout, type ViewShape } from '@basileus/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { LayoutGrid } from 'lucide-react';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { call, CallError } from '../api/call';
import { useScope } from '../frame/scope';
import { Popover } from '../ui/Popover';
import { toast } from '../ui/messages';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

/** What of the address a view keeps: what is asked and in which order, and not what is open beside it. */
const kept = ['q', 'category', 'brand', 'kind', 'lacks', 'sort', 'open', 'choice'];
export function toViewAddress(search: URLSearchParams): string {
  const said = new URLSearchParams();
  for (const name of kept) {
    const value = search.get(name);
    // Families that were opened one by one are not a way of looking.
    if (value !== null && (name !== 'open' || value === 'all')) said.set(name, value);
  }
  return said.toString();
}

/** Views of the catalog kept under names: taken up, kept anew, let go. */
export function ViewsMenu({
  views,
  view,
  layout,
  isChanged,
  onKept,
}: {
  views: readonly ViewShape[];
  view: ViewShape | undefined;
  layout: TableLayout;
  /** The table is not as the view that is taken up says, in its columns or in what is asked. */
  isChanged: boolean;
  /** The layout stands in a view by now. */
  onKept: () => void;
}) {
  const [button, setButton] = useState<HTMLButtonElement | null>(null);
  const [isOpen, setOpen] = useState(false),
    [name, setName] = useState('');
  const [search] = useSearchParams();
  const { scope } = useScope();
  const navigate = useNavigate(),
    client = useQueryClient();
  const goTo = (v: ViewShape) => {
    void navigate(`/${scope}/gather?${v.address}${v.address === '' ? '' : '&'}view=${v.id}`);
  };
  const keep = useMutation({
    mutationFn: (as: string) => call(keepView, { body: { name: as, layout, address: toViewAddress(search) } }),
    onSuccess: async (v) => {
      toast.success(say`Kept as “${v.name}”.`);
      setName('');
      setOpen(false);
      await client.invalidateQueries({ queryKey: ['views'] });
      onKept();
      goTo(v);
    },
  });
  const forget = useMutation({
    mutationFn: (v: ViewShape) => call(removeView, { params: { id: v.id } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['views'] }),
  });
  return (
    <>
      <button
        ref={setButton}
        type="button"
        className={`btn btn-sm max-w-56 shrink-0 ${view ? 'btn-outline' : ''}`}
        aria-haspopup="dialog"
        aria-expanded={isOpen}
        title={say`Views that are kept: columns, what is asked, and the order`}
        onClick={() => {
          setOpen(!isOpen);
        }}
      >
        <LayoutGrid size={14} />
        <span className="truncate">
          {view ? view.name : say`Views`}
          {view && isChanged && <span title={say`Changed since it was kept`}> *</span>}
        </span>
      </button>
      {isOpen && button && (
        <Popover
          under={button}
          label={say`Views`}
          onClose={() => {
            setOpen(false);
          }}
        >
          <ul className="flex flex-col py-1" aria-label={say`Kept views`}>
            <li>
              <button
                type="button"
                className="w-full px-3 py-1 text-start hover:bg-primary/10"
                onClick={() => {
                  setOpen(false);
                  void navigate(`/${scope}/gather`);
                }}
              >
                {say`The whole catalog`}
              </button>
            </li>
            {views.map((v) => (
              <li key={v.id} className="flex hover:bg-primary/10">
                <button
                  type="button"
                  aria-current={v.id === view?.id ? 'true' : undefined}
                  className="min-w-0 flex-1 truncate px-3 py-1 text-start aria-[current]:font-semibold"
                  title={say`${v.name}, kept by ${v.actor}`}
                  onClick={() => {
                    setOpen(false);
                    goTo(v);
                  }}
                >
                  {v.name}
                </button>
                <button
                  type="button"
                  className="px-3 quiet hover:text-error"
                  aria-label={say`Keep “${v.name}” no more`}
                  onClick={() => {
                    forget.mutate(v);
                  }}
                >
                  ×
                </button>
              </li>
            ))}
          </ul>
          <form
            className="flex flex-col gap-2 border-t border-base-300 p-3"
            onSubmit={(e) => {
              e.preventDefault();
              if (name.trim() !== '') keep.mutate(name);
            }}
          >
            {view && (
              <button
                type="button"
                className="btn btn-sm"
                disabled={!isChanged || keep.isPending}
                onClick={() => {
                  keep.mutate(view.name);
                }}
              >
                <span className="truncate">{tell`Keep it so as “${view.name}”`}</span>
              </button>
            )}
            <div className="flex gap-2">
              <input
                className="input input-sm min-w-0 flex-1"
                aria-label={say`Name of this view`}
                placeholder={say`Name, to keep it`}
                maxLength={120}
                value={name}
                onChange={(e) => {
                  setName(e.target.value);
                }}
              />
              <button type="submit" className="btn btn-sm" disabled={name.trim() === '' || keep.isPending}>
                {say`Keep`}
              </button>
            </div>
            <span role="alert" className="text-xs text-error empty:hidden">
              {keep.error instanceof CallError ? keep.error.body.message : ''}
            </span>
          </form>
        </Popover>
      )}
    </>
  );
}

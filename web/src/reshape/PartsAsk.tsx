import { listProducts, patchProducts, type Product, readParts } from '@basileus/contract';
import { wordRowProblem } from '@basileus/core/change';
import { type Part, partsField, readParts as toParts, writeParts } from '@basileus/core/product';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Plus, X } from 'lucide-react';
import { useId, useState } from 'react';
import { call } from '../api/call';
import { useFields } from '../own/fields';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';
import { useQuiet } from '../ui/useQuiet';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

/** What a bundle is made of; an item with parts becomes one, and one without is a single again. */
export function PartsAsk({ item, onClose }: { item: Product; onClose: () => void }) {
  const now = useQuery({
    queryKey: ['products', 'parts', item.id],
    queryFn: () => call(readParts, { params: { id: item.id } }),
  });
  return (
    <Modal title={say`Parts of ${item.sku}`} onClose={onClose}>
      {now.data ? (
        <Parts item={item} held={now.data.parts} partOf={now.data.partOf} onClose={onClose} />
      ) : now.error ? (
        <Refused error={now.error} />
      ) : (
        <Loading />
      )}
    </Modal>
  );
}

function Parts({
  item,
  held,
  partOf,
  onClose,
}: {
  item: Product;
  held: readonly string[];
  partOf: readonly string[];
  onClose: () => void;
}) {
  const client = useQueryClient(),
    fields = useFields();
  const read = toParts([...held]);
  const [lines, setLines] = useState<Part[]>(() => [...(read.ok ? read.parts : []), { sku: '', count: 1 }]);
  const after = writeParts(lines.map((l) => ({ ...l, sku: l.sku.trim() })).filter((l) => l.sku !== ''));
  const save = useMutation({
    mutationFn: async () => {
      const outcome = await call(patchProducts, {
        body: {
          cells: [
            {
              id: item.id,
              field: partsField,
              before: held.length === 0 ? null : [...held],
              after: after.length === 0 ? null : after,
            },
          ],
        },
      });
      const [refused] = outcome.refused;
      if (refused) throw new Error(wordRowProblem({ field: partsField, value: after, fault: refused.fault }, fields));
      if (outcome.conflicts.length > 0)
        throw new Error('Somebody else has changed the parts meanwhile; close this and look again.');
    },
    onSuccess: () => {
      toast.success(
        after.length === 0 ? say`${item.sku} is no bundle any more.` : say`${item.sku} is a bundle of these.`,
      );
      void client.invalidateQueries({ queryKey: ['products'] });
      onClose();
    },
  });
  const put = (i: number, part: Part) => {
    setLines(lines.map((l, n) => (n === i ? part : l)));
  };
  return (
    <form
      className="flex flex-col gap-3 p-5"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      {partOf.length > 0 && <p>{tell`It is a part of ${partOf.join(', ')}.`}</p>}
      <p className="quiet">
        {say`Sold as one: it has as many as its parts are there for. Without parts it is an item by itself.`}
      </p>
      <ul className="flex flex-col gap-2" aria-label={say`Parts`}>
        {lines.map((line, i) => (
          <li key={i} className="flex items-center gap-2">
            <input
              className="input input-sm num w-20"
              type="number"
              min={1}
              max={10_000}
              aria-label={say`How many of part ${i + 1}`}
              value={line.count}
              onChange={(e) => {
                put(i, { ...line, count: Math.max(1, Number(e.target.value) || 1) });
              }}
            />
            <span aria-hidden="true">×</span>
            <SkuBox
              label={say`SKU of part ${i + 1}`}
              value={line.sku}
              onChange={(sku) => {
                put(i, { ...line, sku });
              }}
            />
            <button
              type="button"
              className="btn btn-ghost btn-sm btn-square"
              aria-label={say`Take part ${i + 1} out`}
              onClick={() => {
                setLines(lines.filter((_, n) => n !== i));
              }}
            >
              <X size={14} />
            </button>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn btn-sm gap-1 self-start"
        onClick={() => {
          setLines([...lines, { sku: '', count: 1 }]);
        }}
      >
        <Plus size={14} />
        {say`Another part`}
      </button>
      {save.error && (
        <p role="alert" className="text-error">
          {save.error.message}
        </p>
      )}
      <div className="flex gap-2">
        <button
          type="submit"
          className="btn btn-primary btn-sm"
          disabled={after.join('\n') === held.join('\n') || save.isPending}
        >
          {say`Keep these parts`}
        </button>
        <button type="button" className="btn btn-sm" onClick={onClose}>
          {say`Leave it`}
        </button>
      </div>
    </form>
  );
}

const mostOffered = 8;

/** A SKU, with those that hold what was typed of it, or of their title. */
function SkuBox({ label, value, onChange }: { label: string; value: string; onChange: (sku: string) => void }) {
  const listId = useId();
  const search = useQuiet(value.trim(), 250);
  const found = useQuery({
    queryKey: ['products', 'skus', search],
    queryFn: async () =>
      (await call(listProducts, { query: { search, open: 'all', limit: 40, offset: 0 } })).rows
        .filter((r) => r.kind === 'single' || r.kind === 'variant')
        .slice(0, mostOffered),
    enabled: search.length > 1,
    placeholderData: keepPreviousData,
  });
  return (
    <>
      <input
        className="input input-sm num min-w-0 flex-1"
        aria-label={label}
        placeholder={say`SKU, or words of its title`}
        autoComplete="off"
        list={listId}
        value={value}
        onChange={(e) => {
          onChange(e.target.value);
        }}
      />
      <datalist id={listId}>
        {(found.data ?? []).map((r) => (
          <option key={r.id} value={r.sku}>
            {typeof r.fields['title'] === 'string' ? r.fields['title'] : ''}
          </option>
        ))}
      </datalist>
    </>
  );
}

import { listImports, listProductFacets } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../api/call';
import { Choice } from '../ui/Choice';
import { count, plural } from '../ui/text';
import { useUrlValue } from '../ui/url';

/** Which of the planned rows are meant, held in the address. */
export interface RowChoice {
  ids: string;
  brand: string;
  own: string;
  import: number;
}

export function useChoice(): {
  choice: RowChoice;
  isNarrowed: boolean;
  set: (name: keyof RowChoice, value: string) => void;
} {
  const [ids, setIds] = useUrlValue('ids'),
    [brand, setBrand] = useUrlValue('brand'),
    [own, setOwn] = useUrlValue('own'),
    [from, setFrom] = useUrlValue('import');
  const setters = { ids: setIds, brand: setBrand, own: setOwn, import: setFrom };
  return {
    choice: { ids, brand, own, import: Number(from) || 0 },
    isNarrowed: Boolean(ids || brand || own || from),
    set: (name, value) => {
      setters[name](value);
    },
  };
}

/** Narrows what would go: the selection from Prepare, a brand, an own category, what one import has changed. */
export function ChooseRows({
  choice,
  set,
}: {
  choice: RowChoice;
  set: (name: keyof RowChoice, value: string) => void;
}) {
  const facets = useQuery({ queryKey: ['products', 'facets'], queryFn: () => call(listProductFacets) }).data;
  const imports = useQuery({ queryKey: ['imports'], queryFn: () => call(listImports) }).data;
  const chosen = choice.ids === '' ? 0 : choice.ids.split(',').length;
  return (
    <div className="flex flex-wrap items-center gap-2 px-5 pb-3" role="group" aria-label="Which rows go">
      {chosen > 0 && (
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => {
            set('ids', '');
          }}
        >
          Only {plural(chosen, 'chosen listing', 'chosen listings')} ×
        </button>
      )}
      <Choice
        width="w-52"
        label="Brand"
        all="Every brand"
        value={choice.brand}
        options={(facets?.brands ?? []).map((b) => [b.name, `${b.name} (${count(b.count)})`])}
        onChoose={(v) => {
          set('brand', v);
        }}
      />
      <Choice
        width="w-52"
        label="Own category"
        all="Every own category"
        value={choice.own}
        options={(facets?.categories ?? []).map((c) => [c.name, `${c.name} (${count(c.count)})`])}
        onChoose={(v) => {
          set('own', v);
        }}
      />
      <Choice
        width="w-52"
        label="Import"
        all="Whatever changed it"
        value={choice.import ? String(choice.import) : ''}
        options={(imports?.rows ?? [])
          .filter((i) => i.state === 'applied' || i.id === choice.import)
          .map((i) => [String(i.id), `Only what ${i.name} changed`])}
        onChoose={(v) => {
          set('import', v);
        }}
      />
    </div>
  );
}

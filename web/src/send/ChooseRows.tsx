import { type ItemChoice, RowFilters } from '../frame/RowFilters';
import { plural, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { tell } from '../ui/tell';

/** Which of the planned rows are meant, held in the address. */
export interface RowChoice extends ItemChoice {
  ids: string;
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
  const chosen = choice.ids === '' ? 0 : choice.ids.split(',').length;
  return (
    <div className="flex flex-wrap items-center gap-2 px-5 pb-3" role="group" aria-label={say`Which rows go`}>
      {chosen > 0 && (
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => {
            set('ids', '');
          }}
        >
          {tell`Only ${plural(chosen, 'chosen listing', 'chosen listings')} ×`}
        </button>
      )}
      <RowFilters choice={choice} set={set} />
    </div>
  );
}

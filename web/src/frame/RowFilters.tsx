import { useQuery } from '@tanstack/react-query';
import { Choice } from '../ui/Choice';
import { count, say } from '../ui/text';
import { facetsQuery, importsQuery } from './queries';

/** Which items are meant, whatever is shown of them; held in the address. */
export interface ItemChoice {
  brand: string;
  own: string;
  import: number;
}

/** Narrows what is shown to a brand, an own category, or what one import has changed. */
export function RowFilters({
  choice,
  set,
  width = 'w-52',
}: {
  choice: ItemChoice;
  set: (name: keyof ItemChoice, value: string) => void;
  width?: string;
}) {
  const facets = useQuery(facetsQuery).data;
  const imports = useQuery(importsQuery).data;
  return (
    <>
      <Choice
        width={width}
        label={say`Brand`}
        all={say`Every brand`}
        value={choice.brand}
        options={(facets?.brands ?? []).map((b) => [b.name, `${b.name} (${count(b.count)})`])}
        onChoose={(v) => {
          set('brand', v);
        }}
      />
      <Choice
        width={width}
        label={say`Own category`}
        all={say`Every own category`}
        value={choice.own}
        options={(facets?.categories ?? []).map((c) => [c.name, `${c.name} (${count(c.count)})`])}
        onChoose={(v) => {
          set('own', v);
        }}
      />
      <Choice
        width={width}
        label={say`Import`}
        all={say`Whatever changed it`}
        value={choice.import ? String(choice.import) : ''}
        options={(imports?.rows ?? [])
          .filter((i) => i.state === 'applied' || i.id === choice.import)
          .map((i) => [String(i.id), say`Only what ${i.name} changed`])}
        onChoose={(v) => {
          set('import', v);
        }}
      />
    </>
  );
}

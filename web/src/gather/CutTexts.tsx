import type { ImportReadingShape, ImportShape } from '@basileus/contract';
import { useFieldsOfFile } from '../choose/wideFields';
import { tell } from '../ui/tell';
import { count, plural } from '../ui/text';
import { FileNotice } from './FileNotice';

/** Columns with only the beginnings of our texts, as from a program with room for thirty letters: they can be left out before ours are cut. */
export function CutTexts({
  data: { cutTexts, reading },
  set,
  isBusy,
}: {
  data: ImportShape;
  set: (part: Partial<ImportReadingShape>) => void;
  isBusy: boolean;
}) {
  const { labelOf } = useFieldsOfFile(reading.columns);
  return cutTexts.map(({ field, rows, of, longest }) => {
    const column = reading.columns.find((c) => c.field === field);
    return (
      <FileNotice key={field} tone="warning">
        <span>
          {tell`“${labelOf(field)}” would be cut: of ${plural(of, 'row', 'rows')} that would change it, ${count(rows)} have only the beginning of ours, ${plural(longest, 'character', 'characters')} at most.`}
        </span>
        {column && (
          <button
            type="button"
            className="btn btn-xs"
            disabled={isBusy}
            onClick={() => {
              set({
                columns: reading.columns.map((c) =>
                  c.index === column.index ? { ...c, field: null, why: 'left-out' } : c,
                ),
              });
            }}
          >
            {tell`Leave “${column.name}” out`}
          </button>
        )}
      </FileNotice>
    );
  });
}

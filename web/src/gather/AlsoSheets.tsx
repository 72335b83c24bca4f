import type { ImportReadingShape, ImportShape } from '@basileus/contract';
import { tell } from '../ui/tell';
import { plural, wordFor } from '../ui/text';
import { FileNotice } from './FileNotice';

/** Other sheets with the same headings, as suppliers have one for each group of goods: they are read after the first when asked. */
export function AlsoSheets({
  data: { sheets, reading },
  set,
  isBusy,
}: {
  data: ImportShape;
  set: (part: Partial<ImportReadingShape>) => void;
  isBusy: boolean;
}) {
  const alike = sheets.filter((s) => s.isAlike).map((s) => s.name);
  if (alike.length === 0) return null;
  const areRead = reading.alsoSheets.length > 0;
  const named = alike.map((s) => `“${s}”`).join(', ');
  return (
    <FileNotice tone="secondary">
      <span>
        {areRead
          ? tell`${named} ${wordFor(alike.length, 'is', 'are')} read after “${reading.sheet ?? ''}”.`
          : tell`${plural(alike.length, 'other sheet has', 'other sheets have')} the same headings: ${named}.`}
      </span>
      <button
        type="button"
        className="btn btn-xs"
        disabled={isBusy}
        onClick={() => {
          set({ alsoSheets: areRead ? [] : alike });
        }}
      >
        {areRead ? tell`Read “${reading.sheet ?? ''}” alone` : tell`Read ${wordFor(alike.length, 'it', 'them')} too`}
      </button>
    </FileNotice>
  );
}

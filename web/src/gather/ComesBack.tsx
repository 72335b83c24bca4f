import type { ImportShape } from '@basileus/contract';
import { Link } from 'react-router';
import { useScope } from '../frame/scope';
import { useFieldsOfFile } from '../choose/wideFields';
import { when, say, wordFor } from '../ui/text';
import { tell } from '../ui/tell';
import { FileNotice } from './FileNotice';

/** What a file that comes back is compared with, and a column that looks as if it were sorted on its own. */
export function ComesBack({
  data: { baseline, shuffled, reading },
  isOpen,
  isBusy,
  onAsNew,
}: {
  data: ImportShape;
  isOpen: boolean;
  isBusy: boolean;
  onAsNew: () => void;
}) {
  const { scope } = useScope(),
    { labelOf } = useFieldsOfFile(reading.columns);
  if (!baseline) return null;
  return (
    <>
      <FileNotice tone="info">
        <span>
          {tell`This is ${(
            <Link className="underline decoration-base-300 underline-offset-2" to={`/${scope}/gather/exports`}>
              {baseline.name} {baseline.id}
            </Link>
          )}, which went out on ${when(baseline.at)}: only what was changed in it is written.`}
        </span>
        {isOpen && (
          <button type="button" className="btn btn-xs" disabled={isBusy} onClick={onAsNew}>
            {say`Read it as a new file`}
          </button>
        )}
      </FileNotice>
      {shuffled.length > 0 && (
        <FileNotice tone="warning">
          {tell`${shuffled.map(labelOf).join(', ')} ${wordFor(shuffled.length, 'looks', 'look')} as if sorted without the other columns: the same values stand in other rows. Sort the whole table in the spreadsheet, or discard this file.`}
        </FileNotice>
      )}
    </>
  );
}

import type { ImportShape } from '@basileus/contract';
import { nameLine } from '@basileus/core/sheet';
import { count, plural, say, wordFor } from '../ui/text';
import { tell } from '../ui/tell';

/** What went in against what came out, and what of the file is not seen in its rows. */
export function FileFacts({ data }: { data: ImportShape }) {
  const { counts: c, reading } = data;
  if (data.state === 'planning' || c.lines === 0) return null;
  const parts = [
    c.above > 0 && say`${count(c.above)} to the header`,
    c.headings > 0 && say`${plural(c.headings, 'heading', 'headings')} again`,
    c.sums > 0 && say`${plural(c.sums, 'row', 'rows')} of sums`,
    c.blank > 0 && say`${count(c.blank)} blank`,
    c.notes > 0 &&
      say`${plural(c.notes, 'note', 'notes')} under the table, from row ${nameLine(c.firstNote, data.starts)}`,
    reading.hiddenRows === 'left-out' && c.hidden > 0 && say`${count(c.hidden)} hidden and left out`,
    `${plural(c.rows, 'item', 'items')}`,
  ].filter(Boolean);
  const first = data.sheets[0],
    others = data.sheets.filter((s) => !s.hidden && s.name !== reading.sheet && !reading.alsoSheets.includes(s.name));
  return (
    <div className="basis-full text-xs">
      <p className="quiet">
        {data.starts.length > 1
          ? say`${plural(c.lines, 'row', 'rows')} in ${count(data.starts.length)} sheets: ${parts.join(', ')}.`
          : data.kind === 'workbook'
            ? say`${plural(c.lines, 'row', 'rows')} in the sheet: ${parts.join(', ')}.`
            : say`${plural(c.lines, 'row', 'rows')} in the file: ${parts.join(', ')}.`}
      </p>
      {c.hidden > 0 && reading.hiddenRows === 'read' && (
        <p className="text-warning">
          {tell`${plural(c.hidden, 'item stands in a row', 'items stand in rows')} that the sheet does not show, filtered away or hidden, and ${wordFor(c.hidden, 'is', 'are')} read too.`}
        </p>
      )}
      {c.merged > 0 && (
        <p className="quiet">
          {tell`${plural(c.merged, 'row takes', 'rows take')} what a cell says that goes down over several rows; SKUs, barcodes and stock are not taken so.`}
        </p>
      )}
      {first?.hidden && first.name !== reading.sheet && (
        <p className="quiet">
          {tell`The first sheet, “${first.name}”, is hidden in the workbook; “${reading.sheet}” is read.`}
        </p>
      )}
      {first?.hidden && first.name === reading.sheet && (
        <p className="text-warning">{tell`“${first.name}” is hidden in the workbook and may not be what you mean.`}</p>
      )}
      {others.length > 0 && (
        <p className="quiet">
          {tell`Not read: ${
            others.length < 4
              ? others.map((s) => `“${s.name}”`).join(', ')
              : plural(others.length, 'other sheet', 'other sheets')
          }.`}
        </p>
      )}
      {c.swallowed > 0 && (
        <p role="alert" className="text-error">
          {tell`${plural(c.swallowed, 'row stands', 'rows stand')} inside a cell of another row, behind a quotation mark that was not closed. The refused rows name the place.`}
        </p>
      )}
    </div>
  );
}

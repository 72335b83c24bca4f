import type { ImportReadingShape, ImportShape } from '@basileus/contract';
import { delimiterNames, knownBys, listSeparators } from '@basileus/core/sheet';
import { useFieldsOfFile } from '../choose/wideFields';
import { ColumnFields } from './ColumnFields';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

const encodings = {
  'utf-8': 'UTF-8',
  'utf-16le': say`UTF-16 LE`,
  'utf-16be': say`UTF-16 BE`,
  'windows-1252': 'Windows-1252',
  shift_jis: 'Shift_JIS',
};

/** Line ends divide entries as well, whatever is said here. */
const separatorNames: Readonly<Record<(typeof listSeparators)[number], string>> = {
  '|': say`pipe |`,
  ';': say`semicolon ;`,
  ',': say`comma ,`,
  '*': say`asterisk *`,
  '/': say`slash /`,
};

/** How the file was read, each part open to correction. */
export function Understood({
  data,
  set,
  isBusy,
}: {
  data: ImportShape;
  set: (part: Partial<ImportReadingShape>) => void;
  isBusy: boolean;
}) {
  const { reading } = data;
  const fields = useFieldsOfFile(reading.columns);
  const keys = knownBys.filter((k) => reading.columns.some((c) => c.field === k));
  const field = 'flex flex-col gap-0.5 text-xs';
  return (
    <section className="panel flex min-h-0 flex-col xl:overflow-auto" aria-label={say`What was understood`}>
      <div className="grid grid-cols-2 gap-3 border-b border-base-300 p-4 sm:grid-cols-3" aria-busy={isBusy}>
        <label className={field}>
          {say`This import may`}
          <select
            className="select select-sm"
            value={reading.mode}
            onChange={(e) => {
              set({ mode: e.target.value as ImportReadingShape['mode'] });
            }}
          >
            <option value="update">{say`update known only`}</option>
            <option value="create">{say`create new only`}</option>
            <option value="both">{say`do both`}</option>
          </select>
        </label>
        {(keys.length > 1 || reading.knownBy !== 'sku') && (
          <label className={field}>
            {say`Rows are known by`}
            <select
              className="select select-sm"
              value={reading.knownBy}
              onChange={(e) => {
                set({ knownBy: e.target.value as ImportReadingShape['knownBy'] });
              }}
            >
              {keys.map((k) => (
                <option key={k} value={k}>
                  {fields.labelOf(k)}
                </option>
              ))}
            </select>
          </label>
        )}
        {reading.knownBy !== 'sku' && (
          <label className={field}>
            {say`A new item without a SKU`}
            <select
              className="select select-sm"
              value={String(reading.makesSkus)}
              onChange={(e) => {
                set({ makesSkus: e.target.value === 'true' });
              }}
            >
              <option value="false">{say`is refused`}</option>
              <option value="true">{tell`gets its ${fields.labelOf(reading.knownBy)} as SKU`}</option>
            </select>
          </label>
        )}
        <label className={field}>
          {say`Decimal sign`}
          <select
            className="select select-sm"
            value={reading.decimalSign}
            onChange={(e) => {
              set({ decimalSign: e.target.value as ',' });
            }}
          >
            {reading.decimalSign === 'undetermined' && <option value="undetermined">{say`choose …`}</option>}
            <option value=".">{say`point, 12.50`}</option>
            <option value=",">{say`comma, 12,50`}</option>
          </select>
        </label>
        {reading.columns.some((c) => c.field !== null && fields.get(c.field)?.kind === 'list') && (
          <label className={field}>
            {say`Lists divided by`}
            <select
              className="select select-sm"
              value={reading.listSeparator}
              onChange={(e) => {
                set({ listSeparator: e.target.value });
              }}
            >
              {listSeparators.map((sign) => (
                <option key={sign} value={sign}>
                  {separatorNames[sign]}
                </option>
              ))}
            </select>
          </label>
        )}
        {reading.columns.some((c) => c.field !== null && fields.get(c.field)?.kind === 'date') && (
          <label className={field}>
            {say`Dates`}
            <select
              className="select select-sm"
              value={reading.dateOrder}
              onChange={(e) => {
                set({ dateOrder: e.target.value as 'day-first' });
              }}
            >
              <option value="day-first">{say`day first, 27/11/2026`}</option>
              <option value="month-first">{say`month first, 11/27/2026`}</option>
            </select>
          </label>
        )}
        <label className={field}>
          {say`A blank cell`}
          <select
            className="select select-sm"
            value={reading.blankClears ? 'clears' : 'keeps'}
            onChange={(e) => {
              set({ blankClears: e.target.value === 'clears' });
            }}
          >
            <option value="keeps">{say`keeps ours`}</option>
            <option value="clears">{say`empties it`}</option>
          </select>
        </label>
        {data.kind === 'text' ? (
          <>
            <label className={field}>
              {say`Encoding`}
              <select
                className="select select-sm"
                value={reading.encoding}
                onChange={(e) => {
                  set({ encoding: e.target.value as 'utf-8' });
                }}
              >
                {Object.entries(encodings).map(([k, l]) => (
                  <option key={k} value={k}>
                    {l}
                  </option>
                ))}
              </select>
            </label>
            <label className={field}>
              {say`Delimiter`}
              <select
                className="select select-sm"
                value={reading.delimiter}
                onChange={(e) => {
                  set({ delimiter: e.target.value as ',' });
                }}
              >
                {Object.entries(delimiterNames).map(([k, l]) => (
                  <option key={k} value={k}>
                    {l}
                  </option>
                ))}
              </select>
            </label>
          </>
        ) : (
          <label className={field}>
            {say`Sheet`}
            <select
              className="select select-sm"
              value={reading.sheet ?? ''}
              onChange={(e) => {
                set({ sheet: e.target.value });
              }}
            >
              {data.sheets.map((s) => (
                <option key={s.name} value={s.name}>
                  {s.name}
                  {s.hidden && say` (hidden in the workbook)`}
                </option>
              ))}
            </select>
          </label>
        )}
        {data.counts.hidden > 0 && (
          <label className={field}>
            {say`Hidden rows`}
            <select
              className="select select-sm"
              value={reading.hiddenRows}
              onChange={(e) => {
                set({ hiddenRows: e.target.value as ImportReadingShape['hiddenRows'] });
              }}
            >
              <option value="read">{say`are read too`}</option>
              <option value="left-out">{say`are left out`}</option>
            </select>
          </label>
        )}
        <label className={field}>
          {say`Header in row`}
          <input
            type="number"
            min={0}
            max={30}
            title={say`0 where the file has no headings`}
            className="input input-sm num"
            key={reading.headerRow}
            defaultValue={reading.headerRow + 1}
            onBlur={(e) => {
              const n = Number(e.target.value) - 1;
              if (e.target.value !== '' && n >= -1 && n !== reading.headerRow) set({ headerRow: n });
            }}
          />
        </label>
        <label className="col-span-full flex items-center gap-2 text-xs">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={reading.acceptMended}
            onChange={(e) => {
              set({ acceptMended: e.target.checked });
            }}
          />
          {say`Take what could be mended and proven; otherwise refuse the row`}
        </label>
        {data.titleLines.length > 0 && (
          <p className="col-span-full quiet">{tell`Over the header: “${data.titleLines.join(' / ')}”`}</p>
        )}
      </div>
      <ColumnFields data={data} set={set} />
    </section>
  );
}

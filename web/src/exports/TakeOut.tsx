import { type ExportSet, keepExportSet, removeExportSet, startExport } from '@basileus/contract';
import { type Schedule, wordSchedule } from '@basileus/core/change';
import type { Which } from '@basileus/core/choose';
import { exportFormats, type ExportFormat } from '@basileus/core/sheet';
import type { ProductField } from '@basileus/core/product';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/call';
import { meantQuery } from '../choose/queries';
import { useWideFields } from '../choose/wideFields';
import { groupFields } from '../own/fields';
import { Refused } from '../ui/faces';
import { KeptNames } from '../ui/KeptNames';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';
import { ScheduleField } from '../ui/ScheduleField';
import { plural, say } from '../ui/text';
import { firstColumns, moveColumn, turnColumn } from './columns';
import { exportSetsQuery } from './queries';
import { tell } from '../ui/tell';

const formatWords: Record<ExportFormat, string> = {
  xlsx: say`Workbook (.xlsx)`,
  csv: say`Comma-separated text (.csv)`,
  tsv: say`Tab-separated text (.tsv)`,
};

/** Taking items out as a file: columns in one's own order, a format, and a name under which all that may be kept. */
export function TakeOut({
  which,
  words,
  onClose,
}: {
  which: Which;
  /** Which items, as one reads it. */
  words: string;
  onClose: () => void;
}) {
  const book = useWideFields(),
    client = useQueryClient(),
    navigate = useNavigate();
  const total = useQuery(meantQuery(which)).data;
  const sets = useQuery(exportSetsQuery).data?.rows ?? [];
  const [columns, setColumns] = useState<string[]>([...firstColumns]),
    [format, setFormat] = useState<ExportFormat>('xlsx'),
    [name, setName] = useState(say`Catalog`),
    [schedule, setSchedule] = useState<Schedule | null>(null);
  const start = useMutation({
    mutationFn: () => call(startExport, { body: { which, columns, format, name } }),
    onSuccess: () => {
      toast.success(say`The file is being made.`);
      void client.invalidateQueries({ queryKey: ['exports'] });
      void navigate('/all/gather/exports');
    },
  });
  const keep = useMutation({
    mutationFn: () => call(keepExportSet, { body: { which, columns, format, name, schedule } }),
    onSuccess: () => {
      toast.success(
        say`These columns are kept as “${name}”${schedule ? say`, and the file is made ${wordSchedule(schedule)}` : ''}.`,
      );
      void client.invalidateQueries({ queryKey: ['exports'] });
    },
  });
  const forget = useMutation({
    mutationFn: (id: number) => call(removeExportSet, { params: { id } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['exports'] }),
  });
  const use = (set: ExportSet) => {
    setColumns(set.columns.filter((c) => book.get(c)));
    setFormat(set.format);
    setName(set.name);
    setSchedule(set.schedule);
  };
  const tick = (f: ProductField) => (
    <label key={f.key} className="flex items-center gap-2">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={columns.includes(f.key)}
        disabled={f.key === 'sku'}
        onChange={() => {
          setColumns(turnColumn(columns, f.key));
        }}
      />
      {f.label}
    </label>
  );
  return (
    <Modal title={say`Take out as a file`} onClose={onClose} wide>
      <form
        className="flex flex-col gap-4 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          start.mutate();
        }}
      >
        <p>
          {tell`${total === undefined ? say`Counting …` : plural(total, 'row', 'rows')}: ${words}. Brought back, only what was changed in the file is written; stock moves by the difference.`}
        </p>
        <KeptNames label={say`Kept columns`} kept={sets} onUse={use} onForget={forget.mutate} />
        <div className="grid grid-cols-2 gap-4">
          <fieldset className="min-w-0">
            <legend className="quiet text-xs">{say`Fields`}</legend>
            <div className="panel h-64 overflow-auto p-2">
              {groupFields(book.all.filter((f) => !f.market)).map(([group, fields]) => (
                <div key={group} className="mb-2">
                  <div className="quiet text-xs">{group}</div>
                  {fields.map(tick)}
                </div>
              ))}
              {groupFields(book.all.filter((f) => f.market)).map(([market, fields]) => (
                <details key={market} className="mb-1" open={fields.some((f) => columns.includes(f.key))}>
                  <summary className="cursor-pointer text-xs">{tell`On ${market}`}</summary>
                  {fields.map(tick)}
                </details>
              ))}
            </div>
          </fieldset>
          <div className="min-w-0">
            <div className="quiet text-xs">{say`Columns of the file, from left to right`}</div>
            <ol className="panel h-64 overflow-auto p-2" aria-label={say`Columns of the file`}>
              {columns.map((key) => (
                <li key={key} className="flex items-center gap-1">
                  <span className="truncate">{book.labelOf(key)}</span>
                  {key !== 'sku' && (
                    <span className="ms-auto flex">
                      <Small
                        label={say`${book.labelOf(key)}: further left`}
                        onClick={() => {
                          setColumns(moveColumn(columns, key, -1));
                        }}
                      >
                        <ArrowUp size={13} />
                      </Small>
                      <Small
                        label={say`${book.labelOf(key)}: further right`}
                        onClick={() => {
                          setColumns(moveColumn(columns, key, 1));
                        }}
                      >
                        <ArrowDown size={13} />
                      </Small>
                      <Small
                        label={say`${book.labelOf(key)}: leave out`}
                        onClick={() => {
                          setColumns(turnColumn(columns, key));
                        }}
                      >
                        <X size={13} />
                      </Small>
                    </span>
                  )}
                </li>
              ))}
            </ol>
          </div>
        </div>
        <div className="flex flex-wrap items-end gap-3">
          <label>
            <span className="quiet block text-xs">{say`Format`}</span>
            <select
              className="select select-sm w-60"
              value={format}
              onChange={(e) => {
                setFormat(e.target.value as ExportFormat);
              }}
            >
              {exportFormats.map((f) => (
                <option key={f} value={f}>
                  {formatWords[f]}
                </option>
              ))}
            </select>
          </label>
          <label>
            <span className="quiet block text-xs">{say`Name`}</span>
            <input
              className="input input-sm w-52"
              required
              maxLength={120}
              value={name}
              onChange={(e) => {
                setName(e.target.value);
              }}
            />
          </label>
          <ScheduleField schedule={schedule} what={say`made`} onChange={setSchedule} />
          <button
            type="button"
            className="btn btn-sm"
            disabled={columns.length < 2 || name.trim() === '' || keep.isPending}
            onClick={() => {
              keep.mutate();
            }}
          >
            {say`Keep these columns`}
          </button>
          <button
            type="submit"
            className="btn btn-sm btn-primary ms-auto"
            disabled={columns.length < 2 || total === 0 || start.isPending}
          >
            {say`Make the file`}
          </button>
        </div>
        {(start.error ?? keep.error) && <Refused error={start.error ?? keep.error} />}
      </form>
    </Modal>
  );
}

const Small = ({ label, onClick, children }: { label: string; onClick: () => void; children: ReactNode }) => (
  <button type="button" className="btn btn-ghost btn-xs btn-square" aria-label={label} onClick={onClick}>
    {children}
  </button>
);

import { parseRulebook } from '@basileus/core/rulebook';
import {
  draftRulebook,
  type SaidOfTemplate,
  type TemplateReading,
  type TemplateSettings,
  type TemplateSheet,
  understandTemplate,
} from '@basileus/core/template';
import { useMemo, useState } from 'react';
import { useFields } from '../own/fields';
import { plural } from '../ui/text';
import { TemplateColumns } from './TemplateColumns';

/** The version of a rulebook that is made today: year and month. */
const versionOf = (day: Date): string => `${day.getFullYear()}.${String(day.getMonth() + 1).padStart(2, '0')}`;

const nothing: TemplateReading = {
  ...{ sheet: '', firstRow: 1, columns: [] },
  heads: { labels: undefined, keys: undefined },
};
const missing = {
  'no-name': 'Say how the market is called.',
  'no-category': 'Say for which of its categories the template is.',
  'no-sku': 'Say which column holds your SKU.',
};

/** What a blank template was read as, to be completed by what it cannot say; a rulebook is made of both. */
export function TemplateForm({
  file,
  sheets,
  isPending,
  onAdd,
}: {
  file: string;
  sheets: readonly TemplateSheet[];
  isPending: boolean;
  onAdd: (document: Record<string, unknown>, said: SaidOfTemplate) => void;
}) {
  const fields = useFields();
  const [said, setSaid] = useState<SaidOfTemplate>({});
  const found = useMemo(() => understandTemplate(sheets, fields, said), [sheets, fields, said]);
  const reading = found ?? nothing;
  const [settings, setSettings] = useState<TemplateSettings>({
    ...{ name: '', category: '', country: '', currency: '', language: 'en' },
    columns: {},
  });
  const drafted = useMemo(
    () => draftRulebook(reading, settings, fields, versionOf(new Date())),
    [reading, settings, fields],
  );
  const document = 'document' in drafted ? drafted.document : undefined;
  const faults = useMemo(() => {
    if (!document) return [];
    const parsed = parseRulebook(document);
    return parsed.ok ? [] : parsed.faults;
  }, [document]);
  const says =
    'faults' in drafted ? drafted.faults.map((f) => missing[f]) : faults.map((f) => `${f.path}: ${f.reason}`);
  const must = reading.columns.filter((c) => (settings.columns[c.index]?.level ?? c.level) === 'must').length;
  const put = (change: Partial<TemplateSettings>): void => {
    setSettings({ ...settings, ...change });
  };
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(e) => {
        e.preventDefault();
        if (document && says.length === 0) onAdd(document, said);
      }}
    >
      <section className="panel flex max-w-3xl flex-col gap-3 p-4">
        <h2 className="text-lg">{file}</h2>
        <p className="quiet">
          {found
            ? `Its sheet “${reading.sheet}” is filled from row ${reading.firstRow + 1} on: ${plural(reading.columns.length, 'column', 'columns')}, of which ${must} must be filled. What it cannot say itself:`
            : 'There is no row of headings over that row; say where the first item stands.'}
        </p>
        <div className="grid gap-3 sm:grid-cols-2">
          <label className="flex flex-col gap-1">
            <span className="text-sm">Sheet to fill</span>
            <select
              className="select select-sm w-full"
              value={said.sheet ?? reading.sheet}
              onChange={(e) => {
                setSaid({ sheet: e.target.value });
                put({ columns: {} });
              }}
            >
              {sheets.map((s) => (
                <option key={s.name}>{s.name}</option>
              ))}
            </select>
          </label>
          <label className="flex flex-col gap-1">
            <span className="text-sm">Row in which the first item stands</span>
            <input
              type="number"
              min={2}
              max={1000}
              className="input input-sm num w-full"
              value={(said.firstRow ?? reading.firstRow) + 1}
              onChange={(e) => {
                const row = Number(e.target.value);
                if (row >= 2) setSaid({ sheet: said.sheet ?? reading.sheet, firstRow: row - 1 });
              }}
            />
          </label>
          <Word
            label="Name of the market"
            value={settings.name}
            onChange={(name) => {
              put({ name });
            }}
          />
          <Word
            label="Category that the template is for"
            value={settings.category}
            onChange={(category) => {
              put({ category });
            }}
          />
          <Word
            label="Country, two letters such as IE"
            value={settings.country}
            onChange={(country) => {
              put({ country: country.toUpperCase() });
            }}
          />
          <Word
            label="Currency of its prices, such as EUR"
            value={settings.currency}
            onChange={(currency) => {
              put({ currency: currency.toUpperCase() });
            }}
          />
          <Word
            label="Language of its texts, two letters such as en"
            value={settings.language}
            onChange={(language) => {
              put({ language: language.toLowerCase() });
            }}
          />
        </div>
      </section>
      <TemplateColumns
        columns={reading.columns}
        said={settings.columns}
        fields={fields}
        onSay={(index, said) => {
          put({ columns: { ...settings.columns, [index]: { ...settings.columns[index], ...said } } });
        }}
      />
      <div className="flex flex-wrap items-center gap-3">
        <button type="submit" className="btn btn-sm btn-primary" disabled={isPending || says.length > 0}>
          Add {settings.name.trim() || 'the market'}
        </button>
        {document && says.length === 0 && (
          <a
            className="btn btn-sm"
            download={`${settings.name.trim()}.json`}
            href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(document, null, 2))}`}
          >
            Keep the rulebook as a file
          </a>
        )}
        <p role="status" className="quiet text-sm">
          {says.slice(0, 3).join(' ')}
        </p>
      </div>
    </form>
  );
}

const Word = ({ label, value, onChange }: { label: string; value: string; onChange: (text: string) => void }) => (
  <label className="flex flex-col gap-1">
    <span className="text-sm">{label}</span>
    <input
      className="input input-sm w-full"
      value={value}
      onChange={(e) => {
        onChange(e.target.value);
      }}
    />
  </label>
);

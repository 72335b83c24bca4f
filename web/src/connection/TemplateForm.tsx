import { parseRulebook } from '@basileus/core/rulebook';
import { draftRulebook, type TemplateReading, type TemplateSettings } from '@basileus/core/template';
import { useMemo, useState } from 'react';
import { useFields } from '../own/fields';
import { plural } from '../ui/text';
import { TemplateColumns } from './TemplateColumns';

/** The version of a rulebook that is made today: year and month. */
const versionOf = (day: Date): string => `${day.getFullYear()}.${String(day.getMonth() + 1).padStart(2, '0')}`;

const missing = {
  'no-name': 'Say how the market is called.',
  'no-category': 'Say for which of its categories the template is.',
  'no-sku': 'Say which column holds your SKU.',
};

/** What a blank template was read as, to be completed by what it cannot say; a rulebook is made of both. */
export function TemplateForm({
  file,
  reading,
  isPending,
  onAdd,
}: {
  file: string;
  reading: TemplateReading;
  isPending: boolean;
  onAdd: (document: Record<string, unknown>) => void;
}) {
  const fields = useFields();
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
        if (document && says.length === 0) onAdd(document);
      }}
    >
      <section className="panel flex max-w-3xl flex-col gap-3 p-4">
        <h2 className="text-lg">{file}</h2>
        <p className="quiet">
          Its sheet “{reading.sheet}” is filled from row {reading.firstRow + 1} on:{' '}
          {plural(reading.columns.length, 'column', 'columns')}, of which {must} must be filled. What it cannot say
          itself:
        </p>
        <div className="grid gap-3 sm:grid-cols-2">
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

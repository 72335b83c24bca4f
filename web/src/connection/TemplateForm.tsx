import { parseRulebook } from '@basileus/core/rulebook';
import {
  type DraftFault,
  type SaidOfTemplate,
  type TemplateReading,
  type TemplateSettings,
  type TemplateSheet,
  understandTemplate,
} from '@basileus/core/template';
import { useId, useMemo, useState } from 'react';
import { useFields } from '../own/fields';
import { plural, say } from '../ui/text';
import { TemplateColumns } from './TemplateColumns';

const nothing: TemplateReading = {
  ...{ sheet: '', firstRow: 1, columns: [] },
  heads: { labels: undefined, keys: undefined },
};
const missing: Readonly<Record<DraftFault, string>> = {
  'no-name': say`Say how the market is called.`,
  'no-category': say`Say for which of the market’s categories the template is.`,
  'no-sku': say`Say which column holds your SKU.`,
};

type Drafted = { document: Record<string, unknown> } | { faults: readonly DraftFault[] };

/**
 * What a blank template was read as, to be completed by what it cannot say; a rulebook is made of both. Of a market that is
 * there, only the category is asked: one of `categories`, or a new one.
 */
export function TemplateForm<D extends Drafted>({
  file,
  sheets,
  categories,
  recall,
  isPending,
  draft,
  goOn,
  onGoOn,
}: {
  file: string;
  sheets: readonly TemplateSheet[];
  categories?: readonly string[];
  /** What columns of a sheet are known to be, from other templates of the market. */
  recall?: (reading: TemplateReading) => TemplateSettings['columns'];
  isPending: boolean;
  draft: (reading: TemplateReading, settings: TemplateSettings) => D;
  goOn: (settings: TemplateSettings) => string;
  onGoOn: (drafted: Extract<D, { document: unknown }>, said: SaidOfTemplate) => void;
}) {
  const fields = useFields();
  const [said, setSaid] = useState<SaidOfTemplate>({});
  const found = useMemo(() => understandTemplate(sheets, fields, said), [sheets, fields, said]);
  const reading = found ?? nothing;
  const known = useMemo(() => (found && recall ? recall(found) : {}), [found, recall]);
  const [given, setSettings] = useState<TemplateSettings>({
    ...{ name: '', category: '', country: '', currency: '', language: 'en' },
    columns: {},
  });
  const settings = { ...given, columns: { ...known, ...given.columns } };
  const drafted = draft(reading, settings);
  const isDrafted = (d: D): d is Extract<D, { document: unknown }> => 'document' in d;
  const document = isDrafted(drafted) ? drafted.document : undefined;
  const asText = JSON.stringify(document);
  // Judged again only where it is another document, not at every key that changes nothing of it.
  const faults = useMemo(() => {
    if (asText === undefined) return [];
    const parsed = parseRulebook(JSON.parse(asText));
    return parsed.ok ? [] : parsed.faults;
  }, [asText]);
  const says =
    'faults' in drafted ? drafted.faults.map((f) => missing[f]) : faults.map((f) => `${f.path}: ${f.reason}`);
  const must = reading.columns.filter((c) => (settings.columns[c.index]?.level ?? c.level) === 'must').length;
  const put = (change: Partial<TemplateSettings>): void => {
    setSettings({ ...given, ...change });
  };
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(e) => {
        e.preventDefault();
        if (isDrafted(drafted) && says.length === 0) onGoOn(drafted, said);
      }}
    >
      <section className="panel flex max-w-3xl flex-col gap-3 p-4">
        <h2 className="text-lg">{file}</h2>
        <p className="quiet">
          {found
            ? say`Its sheet “${reading.sheet}” is filled from row ${reading.firstRow + 1} on: ${plural(reading.columns.length, 'column', 'columns')}, of which ${must} must be filled. What it cannot say itself:`
            : say`There is no row of headings over that row; say where the first item stands.`}
        </p>
        <div className="grid gap-3 sm:grid-cols-2">
          <label className="flex flex-col gap-1">
            <span className="text-sm">{say`Sheet to fill`}</span>
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
            <span className="text-sm">{say`Row in which the first item stands`}</span>
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
          {!categories && (
            <Word
              label={say`Name of the market`}
              value={settings.name}
              onChange={(name) => {
                put({ name });
              }}
            />
          )}
          <Word
            label={say`Category that the template is for`}
            value={settings.category}
            offers={categories ?? []}
            onChange={(category) => {
              put({ category });
            }}
          />
          {!categories && (
            <>
              <Word
                label={say`Country, two letters such as IE`}
                value={settings.country}
                onChange={(country) => {
                  put({ country: country.toUpperCase() });
                }}
              />
              <Word
                label={say`Currency of its prices, such as EUR`}
                value={settings.currency}
                onChange={(currency) => {
                  put({ currency: currency.toUpperCase() });
                }}
              />
              <Word
                label={say`Language of its texts, two letters such as en`}
                value={settings.language}
                onChange={(language) => {
                  put({ language: language.toLowerCase() });
                }}
              />
            </>
          )}
        </div>
      </section>
      <TemplateColumns
        columns={reading.columns}
        said={settings.columns}
        fields={fields}
        onSay={(index, said) => {
          put({ columns: { ...given.columns, [index]: { ...settings.columns[index], ...said } } });
        }}
      />
      <div className="flex flex-wrap items-center gap-3">
        <button type="submit" className="btn btn-sm btn-primary" disabled={isPending || says.length > 0}>
          {goOn(settings)}
        </button>
        {document && !categories && says.length === 0 && (
          <a
            className="btn btn-sm"
            download={`${settings.name.trim()}.json`}
            href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(document, null, 2))}`}
          >
            {say`Keep the rulebook as a file`}
          </a>
        )}
        <p role="status" className="quiet text-sm">
          {says.slice(0, 3).join(' ')}
        </p>
      </div>
    </form>
  );
}

const Word = ({
  label,
  value,
  offers = [],
  onChange,
}: {
  label: string;
  value: string;
  offers?: readonly string[];
  onChange: (text: string) => void;
}) => {
  const list = useId();
  return (
    <label className="flex flex-col gap-1">
      <span className="text-sm">{label}</span>
      <input
        className="input input-sm w-full"
        value={value}
        list={offers.length > 0 ? list : undefined}
        onChange={(e) => {
          onChange(e.target.value);
        }}
      />
      <datalist id={list}>
        {offers.map((o) => (
          <option key={o} value={o} />
        ))}
      </datalist>
    </label>
  );
};

import type { FormulaFault } from '@basileus/core/formula';
import { type Owner, prepareSource, type RulePart, type SourceRules, toSourceBook } from '@basileus/core/source';
import { Plus, X } from 'lucide-react';
import { useMemo } from 'react';
import { useFields } from '../own/fields';
import { FieldSelect } from '../own/FieldSelect';
import { FormulaBox, FormulaHelp } from '../ui/FormulaBox';
import { say } from '../ui/text';

const owners: Readonly<Record<Owner, string>> = {
  theirs: say`the system’s: always taken`,
  first: say`ours: taken where we hold nothing`,
};

/** The first thing that is wrong with rules, with the part that it is of. */
export function findRulesFault(
  rules: SourceRules,
  columns: readonly string[],
): { part: RulePart; fault: FormulaFault } | undefined {
  const made = prepareSource(rules, columns);
  return made.ok ? undefined : made;
}

/** What the rows of a business system become: their SKU, their family, which of them come, and into which fields. */
export function RulesForm({
  rules,
  columns,
  onChange,
}: {
  rules: SourceRules;
  columns: readonly string[];
  onChange: (rules: SourceRules) => void;
}) {
  const book = useFields();
  const theirs = useMemo(() => toSourceBook(columns), [columns]);
  const wrong = useMemo(() => findRulesFault(rules, columns), [rules, columns]);
  const faultOf = (part: RulePart): FormulaFault | undefined => (wrong?.part === part ? wrong.fault : undefined);
  const put = (i: number, field: SourceRules['fields'][number]) => {
    onChange({ ...rules, fields: rules.fields.map((f, n) => (n === i ? field : f)) });
  };
  const used = new Set(['sku', 'parent_sku', ...rules.fields.map((f) => f.field)]);
  const next = book.all.find((f) => !used.has(f.key));
  const section = (title: string, about: string, part: 'sku' | 'family' | 'only', placeholder: string) => (
    <section className="flex flex-col gap-1">
      <h2 className="text-lg">{title}</h2>
      <p className="quiet text-xs">{about}</p>
      <FormulaBox
        label={title}
        value={rules[part]}
        book={theirs}
        fault={faultOf(part)}
        placeholder={placeholder}
        onChange={(text) => {
          onChange({ ...rules, [part]: text });
        }}
      />
    </section>
  );
  return (
    <>
      {section(
        'SKU',
        say`How the SKU of an item is formed out of the columns of the system.`,
        'sku',
        'textjoin("-", [Article], [Variant])',
      )}
      {section(
        say`Family`,
        say`The SKU of its family; nothing where it is in none. Families that are not there are made.`,
        'family',
        'if(isempty([Variant]), "", [Article])',
      )}
      {section(
        say`Which rows come`,
        say`Those for which this is yes; all where nothing stands here.`,
        'only',
        '[Unit] = "PCS"',
      )}
      <section className="flex flex-col gap-2">
        <h2 className="text-lg">{say`Fields`}</h2>
        <ul className="flex flex-col gap-2">
          {rules.fields.map((f, i) => (
            <li key={i} className="flex flex-col gap-1 rounded border border-base-300 p-2">
              <div className="flex items-center gap-1">
                <FieldSelect
                  label={say`Field ${i + 1}`}
                  className="min-w-0 flex-1"
                  value={f.field}
                  fields={book.all.filter((o) => o.key === f.field || !used.has(o.key))}
                  onChoose={(field) => {
                    put(i, { ...f, field });
                  }}
                />
                <button
                  type="button"
                  className="btn btn-ghost btn-sm btn-square"
                  aria-label={say`Take ${book.labelOf(f.field)} out`}
                  onClick={() => {
                    onChange({ ...rules, fields: rules.fields.filter((_, n) => n !== i) });
                  }}
                >
                  <X size={14} />
                </button>
              </div>
              <FormulaBox
                label={say`What ${book.labelOf(f.field)} holds`}
                value={f.from}
                book={theirs}
                fault={faultOf(i)}
                rows={1}
                placeholder="[Column]"
                onChange={(from) => {
                  put(i, { ...f, from });
                }}
              />
              <select
                className="select select-sm w-full"
                aria-label={say`Whose ${book.labelOf(f.field)} is`}
                value={f.owner}
                onChange={(e) => {
                  put(i, { ...f, owner: e.target.value as Owner });
                }}
              >
                {Object.entries(owners).map(([owner, says]) => (
                  <option key={owner} value={owner}>
                    {says}
                  </option>
                ))}
              </select>
            </li>
          ))}
        </ul>
        <button
          type="button"
          className="btn btn-sm gap-1 self-start"
          disabled={!next}
          onClick={() => {
            if (next)
              onChange({
                ...rules,
                fields: [...rules.fields, { field: next.key, from: `[${columns[0] ?? ''}]`, owner: 'first' }],
              });
          }}
        >
          <Plus size={14} />
          {say`A field`}
        </button>
        <FormulaHelp />
      </section>
    </>
  );
}

import type { FieldBook } from '@basileus/core/product';
import type { TemplateColumn, TemplateLevel, TemplateSettings } from '@basileus/core/template';
import { FieldSelect } from '../own/FieldSelect';
import { count, say } from '../ui/text';
import { tell } from '../ui/tell';

type Said = TemplateSettings['columns'][number];
const levels: Readonly<Record<TemplateLevel, string>> = { must: 'must', should: 'should', may: 'may' };

/** The columns of a template: what each is filled from, how much it is wanted, and what may stand in it. */
export const TemplateColumns = ({
  columns,
  said,
  fields,
  onSay,
}: {
  columns: readonly TemplateColumn[];
  said: TemplateSettings['columns'];
  fields: FieldBook;
  onSay: (index: number, said: Said) => void;
}) => (
  <table className="plain-table panel">
    <thead>
      <tr>
        <th>{say`Column`}</th>
        <th>{say`Filled from`}</th>
        <th>{say`Wanted`}</th>
        <th>{say`What may stand there`}</th>
        <th>{say`What the template says of it`}</th>
      </tr>
    </thead>
    <tbody>
      {columns.map((c) => (
        <tr key={c.index}>
          <td>
            {c.label}
            {c.key !== undefined && c.key !== c.label && <span className="num quiet block text-sm">{c.key}</span>}
          </td>
          <td>
            <FieldSelect
              label={say`What ${c.label} is filled from`}
              value={said[c.index]?.field ?? c.field ?? ''}
              fields={fields.all}
              none={say`nothing of ours; typed there`}
              className="w-56"
              onChoose={(field) => {
                onSay(c.index, { field });
              }}
            />
          </td>
          <td>
            <select
              className="select select-sm w-24"
              aria-label={say`How much ${c.label} is wanted`}
              value={said[c.index]?.level ?? c.level}
              onChange={(e) => {
                onSay(c.index, { level: e.target.value as TemplateLevel });
              }}
            >
              {Object.entries(levels).map(([level, word]) => (
                <option key={level} value={level}>
                  {word}
                </option>
              ))}
            </select>
          </td>
          <td className="max-w-72">
            {c.values.length > 0 ? (
              <span className="line-clamp-2" title={c.values.slice(0, 50).join(', ')}>
                <span className="num">{count(c.values.length)}</span>
                {tell` values: ${c.values.slice(0, 12).join(', ')}`}
              </span>
            ) : c.maxCharacters !== undefined ? (
              say`${count(c.maxCharacters)} characters at most`
            ) : (
              ''
            )}
          </td>
          <td className="quiet max-w-80">
            <span className="line-clamp-2" title={c.help}>
              {c.help}
              {c.example !== undefined && ` (${c.example})`}
            </span>
          </td>
        </tr>
      ))}
    </tbody>
  </table>
);

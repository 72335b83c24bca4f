import { fixedFields, type OwnField } from '@basileus/core/product';
import { useQuery } from '@tanstack/react-query';
import { groupFields, fieldsQuery } from './fields';
import { Empty, Loading, Refused } from '../ui/faces';
import { plural, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { emptyDraft, kindNames, toDraft } from './draft';
import { FieldForm } from './FieldForm';

/** What is special about a field, in few words. */
function wordTraits(f: OwnField, languages: number, currencies: number): string {
  return [
    f.by === 'language' && say`in ${plural(languages + 1, 'language', 'languages')}`,
    f.by === 'currency' && say`in ${plural(currencies + 1, 'currency', 'currencies')}`,
    f.unit !== null && f.unit,
    f.values.length > 0 && say`${plural(f.values.length, 'value', 'values')} to choose from`,
    f.axis && say`variants differ by it`,
    f.categories.length > 0 && say`only ${f.categories.join(', ')}`,
  ]
    .filter(Boolean)
    .join('; ');
}

/** Every field by its group; the chosen one, or a new one, in its form beside them. */
export function FieldsView() {
  const { data, error } = useQuery(fieldsQuery);
  const [open, setOpen] = useUrlValue('field');
  if (error) return <Refused error={error} />;
  if (!data) return <Loading />;
  const chosen = data.fields.find((f) => f.key === open);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 lg:grid-cols-[minmax(0,1fr)_26rem]">
      <div className="min-h-0 overflow-auto p-5">
        <table className="plain-table panel">
          <thead>
            <tr>
              <th>{say`Field`}</th>
              <th>{say`Kind`}</th>
              <th>
                <div className="flex items-center">
                  {say`More`}
                  <button
                    type="button"
                    className="btn btn-xs btn-primary ms-auto"
                    onClick={() => {
                      setOpen('new');
                    }}
                  >
                    {say`Add a field`}
                  </button>
                </div>
              </th>
            </tr>
          </thead>
          {groupFields(data.fields).map(([group, fields]) => (
            <tbody key={group}>
              <tr>
                <th colSpan={3} scope="rowgroup" className="bg-base-200 font-serif text-sm font-semibold">
                  {group}
                </th>
              </tr>
              {fields.map((f) => (
                <tr key={f.key} className={f.key === open ? 'bg-primary/8' : ''}>
                  <td>
                    <button
                      type="button"
                      className="text-start underline decoration-base-300 underline-offset-2 hover:decoration-current"
                      aria-current={f.key === open ? 'true' : undefined}
                      onClick={() => {
                        setOpen(f.key);
                      }}
                    >
                      {f.label}
                    </button>
                  </td>
                  <td>{kindNames[f.kind]}</td>
                  <td className="quiet">{wordTraits(f, data.languages.length, data.currencies.length)}</td>
                </tr>
              ))}
            </tbody>
          ))}
          <tbody>
            <tr>
              <th colSpan={3} scope="rowgroup" className="bg-base-200 font-serif text-sm font-semibold">
                {say`What every item has`}
              </th>
            </tr>
            {fixedFields.map((f) => (
              <tr key={f.key}>
                <td>{f.label}</td>
                <td>{kindNames[f.kind]}</td>
                <td />
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <aside className="min-h-0 overflow-auto border-base-300 max-lg:border-t lg:border-s" aria-label={say`The field`}>
        {chosen ? (
          <FieldForm key={chosen.key} draft={toDraft(chosen)} own={data} onClose={setOpen} />
        ) : open === 'new' ? (
          <FieldForm key="new" draft={emptyDraft(say`Make`)} own={data} onClose={setOpen} />
        ) : (
          <Empty title={say`Choose a field, or add one.`}>
            {say`A new field is a column of the catalog at once, can be filled by an import, and can feed a market’s attribute.`}
          </Empty>
        )}
      </aside>
    </div>
  );
}

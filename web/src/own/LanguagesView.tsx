import { localeNow } from '@basileus/core/text';
import { addFacet, removeFacet } from '@basileus/contract';
import { getLanguageName, isCurrencyCode, isLanguageTag } from '@basileus/core/product';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { call } from '../api/call';
import { fieldsQuery, useFields } from './fields';
import { Loading, Refused } from '../ui/faces';
import { plural, say } from '../ui/text';
import { tell } from '../ui/tell';

type Kind = 'language' | 'currency';
const letters = [...'abcdefghijklmnopqrstuvwxyz'];
const currencyNames = new Intl.DisplayNames([localeNow()], { type: 'currency' });
const nameOf = (kind: Kind, code: string): string =>
  kind === 'language' ? getLanguageName(code) : (currencyNames.of(code) ?? code);

/** Languages and currencies that the house writes beside its own: each gives its texts or prices a column. */
export function LanguagesView() {
  const { data, error } = useQuery(fieldsQuery);
  const languages = useMemo(() => letters.flatMap((a) => letters.map((b) => a + b)).filter(isLanguageTag), []);
  const currencies = useMemo(() => Intl.supportedValuesOf('currency').filter(isCurrencyCode), []);
  if (error) return <Refused error={error} />;
  if (!data) return <Loading />;
  return (
    <div className="grid min-h-0 flex-1 content-start gap-5 overflow-auto p-5 lg:grid-cols-2">
      <Facets
        kind="language"
        title={say`Languages`}
        house={say`English is the house’s own.`}
        codes={data.languages}
        known={languages}
      />
      <Facets
        kind="currency"
        title={say`Currencies`}
        house={say`GBP is the house’s own.`}
        codes={data.currencies}
        known={currencies}
      />
    </div>
  );
}

function Facets({
  kind,
  title,
  house,
  codes,
  known,
}: {
  kind: Kind;
  title: string;
  house: string;
  codes: readonly string[];
  known: readonly string[];
}) {
  const client = useQueryClient();
  const fields = useFields();
  const [typed, setTyped] = useState('');
  // Either the code or the name of what is meant.
  const meant = known.find(
    (c) =>
      c.toLowerCase() === typed.trim().toLowerCase() || nameOf(kind, c).toLowerCase() === typed.trim().toLowerCase(),
  );
  const change = useMutation({
    mutationFn: async ({ code, how }: { code: string; how: 'add' | 'remove' }) => {
      if (how === 'add') await call(addFacet, { body: { kind, code } });
      else await call(removeFacet, { params: { kind, code } });
    },
    onSuccess: () => {
      setTyped('');
      void client.invalidateQueries({ queryKey: ['own'] });
    },
  });
  return (
    <section className="panel flex flex-col gap-3 p-4" aria-label={title}>
      <h2 className="text-lg">{title}</h2>
      <p className="quiet">{tell`${house} A market that is added brings what it needs.`}</p>
      <table className="plain-table">
        <tbody>
          {codes.map((code) => (
            <tr key={code}>
              <td className="num w-16">{code}</td>
              <td>{nameOf(kind, code)}</td>
              <td className="quiet">
                {plural(
                  fields.all.filter((f) => (kind === 'language' ? f.language : f.currency) === code).length,
                  'field',
                  'fields',
                )}
              </td>
              <td className="text-end">
                <button
                  type="button"
                  className="btn btn-xs"
                  aria-label={say`Give up ${nameOf(kind, code)}`}
                  disabled={change.isPending}
                  onClick={() => {
                    change.mutate({ code, how: 'remove' });
                  }}
                >
                  {say`Give up`}
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <form
        className="flex gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (meant !== undefined) change.mutate({ code: meant, how: 'add' });
        }}
      >
        <input
          className="input input-sm w-52"
          aria-label={kind === 'language' ? say`A further language` : say`A further currency`}
          placeholder={kind === 'language' ? say`French, or fr` : say`Swiss Franc, or CHF`}
          list={`known-${kind}`}
          value={typed}
          onChange={(e) => {
            setTyped(e.target.value);
          }}
        />
        <datalist id={`known-${kind}`}>
          {known
            .filter((c) => !codes.includes(c))
            .map((c) => (
              <option key={c} value={nameOf(kind, c)}>
                {c}
              </option>
            ))}
        </datalist>
        <button type="submit" className="btn btn-sm" disabled={meant === undefined || change.isPending}>
          {say`Add`}
        </button>
      </form>
      {change.error && <Refused error={change.error} />}
    </section>
  );
}

import { type RowFault, wordRowFault } from '@basileus/core/formula';
import { readFormula } from '@basileus/core/listing';
import type { FieldBook } from '@basileus/core/product';
import { toAttributeField } from '@basileus/core/rulebook';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useScope } from '../frame/scope';
import { FormulaBox, FormulaHelp } from '../ui/FormulaBox';
import { Modal } from '../ui/Modal';
import { useQuiet } from '../ui/useQuiet';
import { sourceTrialQuery } from './queries';
import type { SourceEditing } from './TextSource';
import { say } from '../ui/text';

/** A formula that fills an attribute: what is wrong is underlined, and three items of the category show what it gives. */
export function FormulaSource({
  row,
  node,
  rulebook,
  fields,
  isBusy,
  where,
  onKeep,
  onClose,
}: SourceEditing & { fields: FieldBook }) {
  const { market, name } = useScope();
  const { said } = row;
  const [text, setText] = useState(
    said?.source.is === 'formula'
      ? said.source.formula
      : said?.source.is === 'field'
        ? `[${fields.labelOf(said.source.field)}]`
        : row.suggested === null
          ? ''
          : `[${fields.labelOf(row.suggested)}]`,
  );
  const as = useMemo(
    () =>
      toAttributeField(
        { key: market, name },
        rulebook,
        rulebook.attributes.find((a) => a.key === row.attribute)!,
      ),
    [market, name, rulebook, row.attribute],
  );
  const read = readFormula(text, as, fields);
  const formula = useQuiet(text),
    trial = useQuery(
      sourceTrialQuery(market, { attribute: row.attribute, node, formula }, read.ok && formula === text),
    );
  return (
    <Modal title={say`${row.label}, for ${where}`} onClose={onClose} wide>
      <form
        className="flex flex-col gap-4 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          if (read.ok) onKeep({ is: 'formula', formula: text });
        }}
      >
        <FormulaBox
          label={say`Formula for ${row.label}`}
          value={text}
          book={fields}
          fault={read.ok ? undefined : read.fault}
          placeholder={'[Brand] & " " & [Title]'}
          rows={3}
          isFirst
          onChange={setText}
        />
        {read.ok && trial.data?.ok && (
          <table className="plain-table text-sm" aria-label={say`What it gives`}>
            <tbody>
              {trial.data.samples.map((s) => (
                <tr key={s.sku}>
                  <td className="num quiet whitespace-nowrap">{s.sku}</td>
                  <td className="w-full break-words">
                    {s.fault ? (
                      <span className="text-error">{wordRowFault(s.fault as RowFault)}</span>
                    ) : (
                      s.value || <span className="quiet">{say`nothing: it stays empty`}</span>
                    )}
                  </td>
                </tr>
              ))}
              {trial.data.samples.length === 0 && (
                <tr>
                  <td className="quiet">{say`No item stands in this category yet.`}</td>
                </tr>
              )}
            </tbody>
          </table>
        )}
        <button type="submit" className="btn btn-sm btn-primary self-start" disabled={isBusy || !read.ok}>
          {say`Keep`}
        </button>
        <FormulaHelp />
      </form>
    </Modal>
  );
}

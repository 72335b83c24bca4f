import {
  createFormWriter,
  findOperation,
  listFormKeys,
  listTaken,
  lookAtFile,
  makeSample,
  toRecords,
} from '@basileus/core/forms';
import { compileCategory, type Form, type Operation, operations, type Rulebook } from '@basileus/core/rulebook';
import { useMemo } from 'react';
import { RecordsLook, wordFile } from '../send/RecordsLook';
import { count, sizeOf, say } from '../ui/text';
import { OwnTemplate } from '../connection/OwnTemplate';

const records: Readonly<Record<Form['record'], string>> = {
  listing: say`one record an item`,
  'listing-at-site': say`one record an item and country`,
  family: say`one record a family, its variants side by side`,
};
/** What an operation is for, as a verb. */
const operationWords: Readonly<Record<Operation, string>> = {
  create: say`put up new entries`,
  offer: say`join entries that are there`,
  revise: say`change details`,
  replace: say`replace whole entries`,
  price: say`change prices`,
  stock: say`change stock`,
  withdraw: say`take entries down`,
  restore: say`put entries back`,
};

const capitalise = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** What a market’s files look like: each form with what it is for, its header rows and a sample of a record. */
export function FileForms({ rulebook, leaf }: { rulebook: Rulebook; leaf: string }) {
  const samples = useMemo(() => listSamples(rulebook, leaf), [rulebook, leaf]);
  return (
    <div className="flex flex-col gap-5">
      {samples.map(({ form, done, looks }) => (
        <section key={form.key} aria-label={form.label}>
          <h3 className="mb-1 text-lg">{form.label}</h3>
          <p className="mb-2 quiet">
            {say`${capitalise(wordFile(looks, form.container.encoding))}; ${records[form.record]}; a blank ${form.blank === 'keeps' ? say`leaves what is there` : say`empties the field`}; at most ${count(form.maxRecords)} records${form.maxBytes === undefined ? '' : say` and ${sizeOf(form.maxBytes)}`} a file. It is used to ${done.map((o) => operationWords[o]).join(', ')}.`}
          </p>
          {form.container.kind === 'workbook' && <OwnTemplate market={rulebook.market.key} form={form.key} />}
          <div className="overflow-auto panel">
            <RecordsLook looks={looks} />
          </div>
        </section>
      ))}
    </div>
  );
}

/** Each form with a sample of what goes in it; of a leaf that is named the forms alone that take its items. */
function listSamples(rulebook: Rulebook, leaf: string) {
  return rulebook.forms.flatMap((form) => {
    const done = operations.filter((o) => {
      const terms = findOperation(rulebook, o);
      return terms !== undefined && terms.done === o && listFormKeys(terms).includes(form.key);
    });
    const [operation] = done;
    if (operation === undefined) return [];
    const taken = listTaken(rulebook, operation, form.key);
    const category = compileCategory(rulebook, leaf || (taken[0] ?? ''));
    if (!category || !taken.includes(category.key)) return [];
    const sample = makeSample(category, operation);
    // Prices and stock have rows for what can be bought only.
    const rows = operation === 'price' || operation === 'stock' ? sample.filter((r) => r.role !== 'parent') : sample;
    const made = toRecords(rulebook, form, rows);
    const writer = createFormWriter(rulebook, form);
    const text = writer.header() + writer.records(made) + writer.footer();
    return [{ form, done, looks: lookAtFile(rulebook, form, text, made, () => undefined) }];
  });
}

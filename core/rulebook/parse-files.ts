// What is wrong with what a document says of files and of the way they take: operations, forms, answers, transport.
import { jsonPathPattern, xmlPathPattern } from '../forms/containers/path';
import { findTwins, type RulebookFault } from './fault';
import type { RulebookDocument } from './schema';

/** Faults in operations, forms, answers and transport, each with its path. */
export function* findFileFaults(book: RulebookDocument): Generator<RulebookFault> {
  yield* checkOperations(book);
  for (const [i, form] of book.forms.entries()) yield* checkForm(book, form, `forms[${i}]`);
  yield* checkAnswers(book);
  yield* checkTransport(book);
}

function* checkOperations(book: RulebookDocument): Generator<RulebookFault> {
  const forms = new Map(book.forms.map((f) => [f.key, f]));
  for (const [name, terms] of Object.entries(book.operations)) {
    const path = `operations.${name}`;
    if ('as' in terms) {
      const other = book.operations[terms.as];
      if (!other || 'as' in other)
        yield { path: `${path}.as`, reason: `"${terms.as}" is not done here by a form of its own.` };
    } else if (!forms.has(terms.form)) yield { path: `${path}.form`, reason: `There is no form "${terms.form}".` };
    else if (terms.carries === 'changed' && forms.get(terms.form)!.blank === 'clears')
      yield {
        path: `${path}.carries`,
        reason: `A blank clears in the form "${terms.form}", so a row must be carried whole.`,
      };
  }
}

function* checkForm(
  book: RulebookDocument,
  form: RulebookDocument['forms'][number],
  at: string,
): Generator<RulebookFault> {
  const attributes = new Map(book.attributes.map((a) => [a.key, a]));
  if (form.blank === 'keeps' && form.clear === undefined)
    yield { path: `${at}.clear`, reason: 'A blank keeps the old value here, so the form must say how to clear.' };
  yield* checkContainer(form, at);
  for (const [k, { key, holds }] of form.slots.entries()) {
    const path = `${at}.slots[${k}]`;
    if (holds.what === 'site' || holds.what === 'currency') {
      if (form.record !== 'listing-at-site' && (holds.what === 'site' || book.sites.length > 1))
        yield { path: `${path}.holds`, reason: 'Only a record of a listing at a site has a site.' };
    }
    if (!('attribute' in holds)) continue;
    yield* checkNamed(book, form, holds.attribute, `${path}.holds.attribute`);
    if (holds.what !== 'value' || (form.container.kind !== 'delimited' && key.endsWith('[]'))) continue;
    const list = attributes.get(holds.attribute.split('@')[0]!);
    const torn =
      list?.type === 'several-of' && list.codes !== undefined
        ? book.codeLists[list.codes]?.entries.find((e) => e.code.includes(form.text.listSeparator))
        : undefined;
    if (torn)
      yield {
        path,
        reason: `The code "${torn.code}" holds "${form.text.listSeparator}", which divides the entries of a list here.`,
      };
  }
  if (!form.slots.some((s) => s.holds.what === 'sku')) yield { path: `${at}.slots`, reason: 'No slot holds the SKU.' };
}

/** A nested container has its slots at paths, no two of which are one or lead through another. */
function* checkContainer(
  { container, clear, slots }: RulebookDocument['forms'][number],
  at: string,
): Generator<RulebookFault> {
  if (container.kind === 'json')
    yield { path: `${at}.container.kind`, reason: 'A form is written record by record: json-lines, not json.' };
  if (container.kind === 'delimited' || container.kind === 'xml') {
    if (clear === null) yield { path: `${at}.clear`, reason: 'Only JSON has a null; here a word is needed to clear.' };
    for (const [k, { as }] of slots.entries())
      if (as !== 'text') yield { path: `${at}.slots[${k}].as`, reason: 'Delimited text and XML know texts only.' };
  }
  if (container.kind === 'delimited') return;
  const paths = new Set(slots.map((s) => s.key));
  for (const [k, { key }] of slots.entries()) {
    const path = `${at}.slots[${k}].key`;
    const parts = key.split('.');
    const pattern = container.kind === 'xml' ? xmlPathPattern : jsonPathPattern;
    if (!pattern.test(key) || key.endsWith('.') || parts.slice(0, -1).some((p) => p.endsWith('[]')))
      yield {
        path,
        reason: `"${key}" is no path: names divided by points, the last with [] where it holds a list, such as say.points[].`,
      };
    // An element may have a text and attributes.
    else if (!key.includes('@') && parts.some((_, n) => n > 0 && paths.has(parts.slice(0, n).join('.'))))
      yield { path, reason: `"${key}" leads through another slot.` };
  }
  yield* findTwins(
    slots.map(({ key }) => ({ key: key.replace('[]', '') })),
    `${at}.slots`,
  );
}

/** An attribute as a slot names it: with its language or site where it has one, and with `@` alone for the record's site. */
function* checkNamed(
  book: RulebookDocument,
  form: RulebookDocument['forms'][number],
  named: string,
  path: string,
): Generator<RulebookFault> {
  const [key = '', facet] = named.split('@');
  const a = book.attributes.find((x) => x.key === key);
  if (!a) {
    yield { path, reason: `There is no attribute "${key}".` };
    return;
  }
  const facets = a.by === 'language' ? book.market.languages : a.by === 'site' ? book.sites.map((s) => s.key) : [];
  if (a.by === undefined && facet !== undefined)
    yield { path, reason: `"${key}" has one value in all, so it is named without "@".` };
  else if (a.by !== undefined && facet === undefined)
    yield { path, reason: `"${key}" has one value a ${a.by}: name which, such as "${key}@${facets[0] ?? ''}".` };
  else if (facet === '' && (a.by !== 'site' || form.record !== 'listing-at-site'))
    yield { path, reason: `"${named}" asks for the site of the record, which has none.` };
  else if (facet && !facets.includes(facet)) yield { path, reason: `"${key}" has no value for "${facet}".` };
}

function* checkAnswers(book: RulebookDocument): Generator<RulebookFault> {
  for (const [i, a] of book.answers.entries()) {
    for (const f of a.to ?? [])
      if (!book.forms.some((x) => x.key === f)) yield { path: `answers[${i}].to`, reason: `There is no form "${f}".` };
    if ('words' in a.verdict && a.slots.verdict === undefined)
      yield { path: `answers[${i}].slots.verdict`, reason: 'Verdicts have words, but no column holds them.' };
    if (a.container.kind !== 'delimited')
      for (const [name, slot] of Object.entries(a.slots))
        if (slot !== undefined && !(a.container.kind === 'xml' ? xmlPathPattern : jsonPathPattern).test(slot))
          yield {
            path: `answers[${i}].slots.${name}`,
            reason: `"${slot}" is no path, such as token or notes[].id.`,
          };
  }
}

/** An answer is whole when it comes, or says so: by a status while it is not there, by a word, or both. */
function* checkTransport({ transport, forms }: RulebookDocument): Generator<RulebookFault> {
  if (transport.kind === 'http' && transport.answer.waiting.length === 0 && !transport.answer.until)
    yield { path: 'transport.answer', reason: 'Nothing says when an answer is still waited for: waiting or until.' };
  if (transport.kind === 'sftp')
    for (const [i, form] of forms.entries())
      if (!form.fileName.includes('{id}'))
        yield {
          path: `forms[${i}].fileName`,
          reason: 'Over SFTP a file is known by its name, so no two may have one: the name holds {id}.',
        };
  const most = transport.kind === 'http' ? transport.quota?.records : undefined;
  for (const [i, form] of forms.entries())
    if (most !== undefined && form.maxRecords > most)
      yield {
        path: `forms[${i}].maxRecords`,
        reason: `A file of ${form.maxRecords} records is more than the ${most} that the quota lets through at once.`,
      };
}

// What is wrong with what a document says of files and of the way they take: operations, forms, answers, transport.
import { listColumns } from '../forms/columns';
import { hasColumns } from '../forms/containers/kind';
import { jsonPathPattern, xmlPathPattern } from '../forms/containers/path';
import { findTwins, type RulebookFault } from './fault';
import { listFormKeys, listForms } from './form-choice';
import { checkChoice } from './parse-choice';
import type { RulebookDocument } from './schema';
import type { Operation } from './terms';

/** Faults in operations, forms, answers and transport, each with its path. */
export function* findFileFaults(book: RulebookDocument): Generator<RulebookFault> {
  yield* checkOperations(book);
  yield* checkOffer(book);
  for (const [i, form] of book.forms.entries()) yield* checkForm(book, form, `forms[${i}]`);
  yield* checkAnswers(book);
  yield* checkLists(book);
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
      continue;
    }
    const keys = listFormKeys(terms);
    const missing = keys.find((key) => !forms.has(key));
    if (missing !== undefined) {
      yield { path: `${path}.form`, reason: `There is no form "${missing}".` };
      continue;
    }
    const clearing = keys.find((key) => forms.get(key)!.blank === 'clears');
    if (terms.carries === 'changed' && clearing !== undefined)
      yield {
        path: `${path}.carries`,
        reason: `A blank clears in the form "${clearing}", so a row must be carried whole.`,
      };
    yield* checkChoice(book, name as Operation, path);
  }
}

/** An offer joins an entry that was found by its number, so that number has to be known and to be told. */
function* checkOffer({ operations, forms, lists }: RulebookDocument): Generator<RulebookFault> {
  const terms = operations.offer;
  if (terms === undefined) return;
  if ('as' in terms) {
    yield { path: 'operations.offer', reason: 'An offer has a form of its own.' };
    return;
  }
  const form = listForms({ operations, forms }, 'offer').find(
    (f) => f.record !== 'listing' || !f.slots.some((s) => s.holds.what === 'entry'),
  );
  if (form)
    yield {
      path: 'operations.offer.form',
      reason: `The form "${form.key}" has no slot for the entry that an offer joins, a record each listing.`,
    };
  if (!lists.find?.slots.identifier)
    yield { path: 'lists.find', reason: 'Entries that offers join are found by their identifiers.' };
}

function* checkForm(
  book: RulebookDocument,
  form: RulebookDocument['forms'][number],
  at: string,
): Generator<RulebookFault> {
  const attributes = new Map(book.attributes.map((a) => [a.key, a]));
  if (form.blank === 'keeps' && form.clear === undefined)
    yield { path: `${at}.clear`, reason: 'A blank keeps the old value here, so the form must say how to clear.' };
  for (const [k, node] of (form.for ?? []).entries())
    if (!book.tree.some((n) => n.key === node))
      yield { path: `${at}.for[${k}]`, reason: `There is no category "${node}".` };
  yield* checkContainer(form, at);
  yield* checkFamilyForm(book, form, at);
  const slots = [
    ...form.slots.map((slot, k) => ({ slot, path: `${at}.slots[${k}]` })),
    ...(form.members?.slots ?? []).map((slot, k) => ({ slot, path: `${at}.members.slots[${k}]` })),
  ];
  for (const {
    slot: { key, holds },
    path,
  } of slots) {
    if (holds.what === 'site' || holds.what === 'currency') {
      if (form.record !== 'listing-at-site' && (holds.what === 'site' || book.sites.length > 1))
        yield { path: `${path}.holds`, reason: 'Only a record of a listing at a site has a site.' };
    }
    if (!('attribute' in holds)) continue;
    yield* checkNamed(book, form, holds.attribute, `${path}.holds.attribute`);
    if (holds.what !== 'value' || (!hasColumns(form.container) && key.endsWith('[]'))) continue;
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
  if (!slots.some((s) => s.slot.holds.what === 'sku')) yield { path: `${at}.slots`, reason: 'No slot holds the SKU.' };
}

/** A record of a family names the family, and has room for as many variants as one may have. */
function* checkFamilyForm(
  book: RulebookDocument,
  form: RulebookDocument['forms'][number],
  at: string,
): Generator<RulebookFault> {
  const { members, record, container, slots, blank } = form;
  if (record !== 'family') {
    if (members) yield { path: `${at}.members`, reason: 'Only a record of a family has members.' };
    return;
  }
  if (!members) {
    yield { path: `${at}.members`, reason: 'A record of a family says where its variants stand.' };
    return;
  }
  if (!hasColumns(container))
    yield {
      path: `${at}.container.kind`,
      reason: 'Variants stand side by side in columns, so in delimited text or a workbook.',
    };
  if (blank === 'clears')
    yield { path: `${at}.blank`, reason: 'Variants that are not on their way are left blank, so a blank has to keep.' };
  if (book.families.parents !== 'inside')
    yield { path: 'families.parents', reason: `The form "${form.key}" has families as records: "inside".` };
  if (!slots.some((s) => s.holds.what === 'family-key'))
    yield { path: `${at}.slots`, reason: 'No slot holds what names the family.' };
  for (const [k, { key, holds }] of members.slots.entries()) {
    if (!key.includes('{n}'))
      yield { path: `${at}.members.slots[${k}].key`, reason: `"${key}" has no {n} for its place in the record.` };
    if (!('attribute' in holds) && holds.what !== 'sku')
      yield { path: `${at}.members.slots[${k}].holds`, reason: 'A variant has its SKU and values of its own.' };
  }
  if (book.families.maxVariants === undefined || book.families.maxVariants > members.most)
    yield {
      path: 'families.maxVariants',
      reason: `The form "${form.key}" has room for ${members.most} variants, so no family may have more.`,
    };
  yield* findTwins(listColumns(form), `${at}.slots`);
}

/** A nested container has its slots at paths, no two of which are one or lead through another. */
function* checkContainer(
  { container, clear, slots }: RulebookDocument['forms'][number],
  at: string,
): Generator<RulebookFault> {
  if (container.kind === 'json')
    yield { path: `${at}.container.kind`, reason: 'A form is written record by record: json-lines, not json.' };
  if (hasColumns(container) || container.kind === 'xml') {
    if (clear === null) yield { path: `${at}.clear`, reason: 'Only JSON has a null; here a word is needed to clear.' };
    for (const [k, { as }] of slots.entries())
      if (container.kind === 'workbook' ? as === 'true-false' : as !== 'text')
        yield {
          path: `${at}.slots[${k}].as`,
          reason:
            container.kind === 'workbook' ? 'Cells are texts or numbers.' : 'Delimited text and XML know texts only.',
        };
  }
  if (hasColumns(container)) return;
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
  form: RulebookDocument['forms'][number] | undefined,
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
  else if (facet === '' && (a.by !== 'site' || form?.record !== 'listing-at-site'))
    yield { path, reason: `"${named}" asks for the site of the record, which has none.` };
  else if (facet && !facets.includes(facet)) yield { path, reason: `"${key}" has no value for "${facet}".` };
}

function* checkAnswers(book: RulebookDocument): Generator<RulebookFault> {
  for (const [i, a] of book.answers.entries()) {
    for (const f of a.to ?? [])
      if (!book.forms.some((x) => x.key === f)) yield { path: `answers[${i}].to`, reason: `There is no form "${f}".` };
    if (a.container.kind === 'delimited' && a.container.heads.length === 0)
      yield { path: `answers[${i}].container.heads`, reason: 'Columns of an answer are known by a header row.' };
    if (a.container.kind === 'as-sent') yield* checkAsSent(book, a, `answers[${i}]`);
    else if (a.slots.line === undefined)
      yield { path: `answers[${i}].slots.line`, reason: 'No slot says of which line an answer speaks.' };
    if (a.fault === undefined && a.slots.field === undefined)
      yield { path: `answers[${i}].slots.field`, reason: 'Neither a slot nor a pattern says which field is at fault.' };
    if ('words' in a.verdict && a.slots.verdict === undefined)
      yield { path: `answers[${i}].slots.verdict`, reason: 'Verdicts have words, but no column holds them.' };
    if (a.container.kind !== 'as-sent' && !hasColumns(a.container))
      for (const [name, slot] of Object.entries(a.slots))
        if (slot !== undefined && !(a.container.kind === 'xml' ? xmlPathPattern : jsonPathPattern).test(slot))
          yield {
            path: `answers[${i}].slots.${name}`,
            reason: `"${slot}" is no path, such as token or notes[].id.`,
          };
  }
}

/** A file that comes back is read by the columns of its form, among which what was added stands out. */
function* checkAsSent(
  book: RulebookDocument,
  { to, slots, container }: RulebookDocument['answers'][number],
  at: string,
): Generator<RulebookFault> {
  for (const form of book.forms) {
    if (!(to?.includes(form.key) ?? true)) continue;
    if (!hasColumns(form.container))
      yield { path: `${at}.container`, reason: `The form "${form.key}" has no columns to which some could be added.` };
    const columns = [
      ...listColumns(form).map((c) => c.key),
      ...(container.kind === 'as-sent' ? container.columns : []),
    ];
    for (const [name, slot] of Object.entries(slots))
      if (slot !== undefined && !columns.includes(slot))
        yield { path: `${at}.slots.${name}`, reason: `Files of the form "${form.key}" have no column "${slot}".` };
  }
}

/** Lists are read by their header rows; what entries say of themselves is named by attributes. */
function* checkLists(book: RulebookDocument): Generator<RulebookFault> {
  const { lists } = book;
  for (const attribute of Object.keys(lists.find?.slots.facts ?? {}))
    yield* checkNamed(book, undefined, attribute, `lists.find.slots.facts.${attribute}`);
  for (const attribute of Object.keys(lists.shelf.slots.facts)) {
    const path = `lists.shelf.slots.facts.${attribute}`,
      found = book.attributes.find((a) => a.key === attribute);
    if (!found) yield { path, reason: `There is no attribute "${attribute}".` };
    else if (found.part !== 'price' && found.part !== 'stock')
      yield { path, reason: 'What a list of entries shows is of prices or of stock.' };
    else if (found.by === 'site' && !lists.shelf.slots.site)
      yield { path, reason: `"${attribute}" has one value a site, and no column of the list says which.` };
  }
  for (const [name, list] of Object.entries(lists))
    if (list?.container.kind === 'delimited' && list.container.heads.length === 0)
      yield { path: `lists.${name}.container.heads`, reason: 'Columns of a list are known by a header row.' };
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

// Faults of what a rulebook says of files: each with its path, and nothing else wrong with the document.
import { describe, expect, it } from 'vitest';
import { smallDocument } from '../tests/builders';
import { joiningDocument } from '../tests/joining';
import { loftDocument, type Loose } from '../tests/loft';
import { parseRulebook } from '.';

const pathsOf = (document: Loose): string[] => {
  const reading = parseRulebook(document);
  return reading.ok ? [] : reading.faults.map((f) => `${f.path}: ${f.reason}`);
};
type Form = Loose & { slots: Loose[]; text: Loose; members: Loose & { slots: Loose[] } };
const formsOf = (d: Loose): Form[] => d['forms'] as Form[];
const stall = (change: (d: Loose, form: Form) => void): string[] =>
  pathsOf(
    smallDocument((d) => {
      change(d as unknown as Loose, formsOf(d as unknown as Loose)[0]!);
    }),
  );
const joining = (change: (d: Loose) => void): string[] => pathsOf(joiningDocument(change));
const loft = (change: (d: Loose, form: Form) => void): string[] =>
  pathsOf(
    loftDocument((d) => {
      change(d, formsOf(d)[0]!);
    }),
  );
const slot = (key: string, attribute = key): Loose => ({ key, holds: { what: 'value', attribute } });

describe('an offer', () => {
  it('joins an entry that is found by its number, with a form that names it', () => {
    expect(joining(() => undefined)).toEqual([]);
  });
  it('has a form of its own', () => {
    expect(
      joining((d) => {
        (d['operations'] as Loose)['offer'] = { as: 'create' };
      }),
    ).toContain('operations.offer: An offer has a form of its own.');
  });
  it('has a slot for the entry', () => {
    expect(
      joining((d) => {
        formsOf(d)[1]!.slots.splice(1, 1);
      }),
    ).toEqual([
      'operations.offer.form: The form "offers" has no slot for the entry that an offer joins, a record each listing.',
    ]);
  });
  it.each<[string, (find: Loose, lists: Loose) => void]>([
    ['no list of found entries', (_, lists) => delete lists['find']],
    ['a list without their identifiers', (find) => delete (find['slots'] as Loose)['identifier']],
  ])('is refused where the rulebook has %s', (_, change) => {
    expect(
      joining((d) => {
        const lists = d['lists'] as Loose;
        change(lists['find'] as Loose, lists);
      }),
    ).toEqual(['lists.find: Entries that offers join are found by their identifiers.']);
  });
});

describe('a form', () => {
  it.each<[string, (d: Loose, form: Form) => void, string[]]>([
    [
      'whose blank keeps without a word to clear',
      (_, f) => delete f['clear'],
      ['forms[0].clear: A blank keeps the old value here, so the form must say how to clear.'],
    ],
    [
      'whose blank clears, with rows that are not whole',
      (_, f) => void (f['blank'] = 'clears'),
      ['operations.revise.carries: A blank clears in the form "full", so a row must be carried whole.'],
    ],
    [
      'for a category that is not there',
      (_, f) => void (f['for'] = ['home', 'ghosts']),
      ['forms[0].for[1]: There is no category "ghosts".'],
    ],
    [
      'that is not there',
      (d) => void ((d['operations'] as Loose)['revise'] = { form: 'ghost', code: 'EDIT', carries: 'changed' }),
      ['operations.revise.form: There is no form "ghost".'],
    ],
    [
      'with a site where a record has none',
      (_, f) => void f.slots.push({ key: 'at', holds: { what: 'site', codes: { main: '1' } } }),
      ['forms[0].slots[22].holds: Only a record of a listing at a site has a site.'],
    ],
    // One site has one currency, so that it may be told.
    [
      'with a currency, where there is one',
      (_, f) => void f.slots.push({ key: 'in', holds: { what: 'currency' } }),
      [],
    ],
    [
      'with a currency where there are two sites',
      (d, f) => {
        const sites = d['sites'] as Loose[];
        sites.push({ ...sites[0]!, key: 'other' });
        f.slots.push({ key: 'in', holds: { what: 'currency' } });
      },
      ['forms[0].slots[22].holds: Only a record of a listing at a site has a site.'],
    ],
    [
      'of an attribute that is not there',
      (_, f) => void f.slots.push(slot('ghost')),
      ['forms[0].slots[22].holds.attribute: There is no attribute "ghost".'],
    ],
    [
      'that asks one value in all by language',
      (_, f) => void f.slots.push(slot('pages', 'pages@en')),
      ['forms[0].slots[22].holds.attribute: "pages" has one value in all, so it is named without "@".'],
    ],
    [
      'that divides a code in two',
      (d, f) => {
        f.text['listSeparator'] = ';';
        (d['codeLists'] as { colour: { entries: Loose[] } }).colour.entries[1]!['code'] = 'bl;u';
      },
      ['forms[0].slots[13]: The code "bl;u" holds ";", which divides the entries of a list here.'],
    ],
    ['without the SKU', (_, f) => void f.slots.splice(0, 1), ['forms[0].slots: No slot holds the SKU.']],
    [
      'with members, of a listing',
      (_, f) => void (f['members'] = { most: 3, slots: [slot('{n} x', 'pages')] }),
      ['forms[0].members: Only a record of a family has members.'],
    ],
    [
      'that is one document of JSON',
      (_, f) => void (f['container'] = { kind: 'json', records: 'all' }),
      ['forms[0].container.kind: A form is written record by record: json-lines, not json.'],
    ],
    [
      'with a null in cells',
      (_, f) => void (f['clear'] = null),
      ['forms[0].clear: Only JSON has a null; here a word is needed to clear.'],
    ],
    [
      'with numbers in delimited text',
      (_, f) => void (f.slots[10]!['as'] = 'number'),
      ['forms[0].slots[10].as: Delimited text and XML know texts only.'],
    ],
    [
      'with yes and no of their own in cells',
      (_, f) => {
        f['container'] = { kind: 'workbook', sheet: 'S', heads: [{ row: 'keys' }] };
        f.slots[10]!['as'] = 'number';
        f.slots[14]!['as'] = 'true-false';
      },
      ['forms[0].slots[14].as: Cells are texts or numbers.'],
    ],
    [
      'with two slots of one name',
      (_, f) => {
        f['container'] = { kind: 'json-lines' };
        f.slots.push(slot('points[]', 'points'));
      },
      ['forms[0].slots[22].key: "points" stands twice.'],
    ],
    [
      'with paths through another slot',
      (_, f) => {
        f['container'] = { kind: 'json-lines' };
        f.slots.push(slot('row.pages', 'pages'), slot('other.pages', 'pages'));
      },
      ['forms[0].slots[22].key: "row.pages" leads through another slot.'],
    ],
    [
      'with what is no path',
      (_, f) => {
        f['container'] = { kind: 'json-lines' };
        f.slots.push(
          slot('a b', 'pages'),
          slot('a.', 'pages'),
          slot('many[].one', 'pages'),
          slot('lots.one[]', 'points'),
        );
      },
      ['a b', 'a.', 'many[].one'].map(
        (key, i) =>
          `forms[0].slots[${22 + i}].key: "${key}" is no path: names divided by points, the last with [] where it holds a list, such as say.points[].`,
      ),
    ],
    [
      'of XML, whose elements may have attributes',
      (_, f) => {
        f['container'] = { kind: 'xml', root: 'all', record: 'one' };
        f.slots.push(slot('price.@in', 'pages'), slot('price.in', 'pages'));
      },
      ['forms[0].slots[23].key: "price.in" leads through another slot.'],
    ],
  ])('%s', (_, change, faults) => {
    expect(stall(change)).toEqual(faults);
  });
  it('is not asked of what its own members hold, and of every one that an operation may choose', () => {
    expect(loft(() => undefined)).toEqual([]);
  });
});

describe('a record of a family', () => {
  it.each<[string, (d: Loose, form: Form) => void, string[]]>([
    [
      'says where its variants stand',
      (_, f) => delete (f as Loose)['members'],
      ['forms[0].members: A record of a family says where its variants stand.'],
    ],
    [
      'keeps what is blank',
      (_, f) => void (f['blank'] = 'clears'),
      ['forms[0].blank: Variants that are not on their way are left blank, so a blank has to keep.'],
    ],
    [
      'is of a market whose families are inside',
      (d) => void ((d['families'] as Loose)['parents'] = 'rows'),
      ['families.parents: The form "book" has families as records: "inside".'],
    ],
    ['names the family', (_, f) => void f.slots.splice(1, 1), ['forms[0].slots: No slot holds what names the family.']],
    [
      'has a place for each variant',
      (_, f) => void (f.members.slots[1]!['key'] = 'colour'),
      ['forms[0].members.slots[1].key: "colour" has no {n} for its place in the record.'],
    ],
    [
      'has values in that place',
      (_, f) => void (f.members.slots[1]!['holds'] = { what: 'category' }),
      ['forms[0].members.slots[1].holds: A variant has its SKU and values of its own.'],
    ],
    [
      'has room for the largest family',
      (d) => void ((d['families'] as Loose)['maxVariants'] = 4),
      ['families.maxVariants: The form "book" has room for 3 variants, so no family may have more.'],
    ],
    [
      'has room where no family has a limit',
      (d) => delete (d['families'] as Loose)['maxVariants'],
      ['families.maxVariants: The form "book" has room for 3 variants, so no family may have more.'],
    ],
    // With its members in lines of JSON there are no columns side by side.
    [
      'has columns',
      (_, f) => void (f['container'] = { kind: 'json-lines' }),
      ['forms[0].container.kind: Variants stand side by side in columns, so in delimited text or a workbook.'],
    ],
  ])('%s', (_, change, faults) => {
    expect(loft(change)).toEqual(expect.arrayContaining(faults));
  });
});

describe('an answer', () => {
  const answer = (change: (a: Loose & { slots: Loose; container: Loose }) => void): string[] =>
    stall((d) => {
      change((d['answers'] as (Loose & { slots: Loose; container: Loose })[])[0]!);
    });
  it.each<[string, (a: Loose & { slots: Loose; container: Loose }) => void, string[]]>([
    ['to a form that is not there', (a) => void (a['to'] = ['ghost']), ['answers[0].to: There is no form "ghost".']],
    [
      'without a header row',
      (a) => void (a.container['heads'] = []),
      ['answers[0].container.heads: Columns of an answer are known by a header row.'],
    ],
    [
      'that says of no line',
      (a) => delete a.slots['line'],
      ['answers[0].slots.line: No slot says of which line an answer speaks.'],
    ],
    [
      'that says of no field',
      (a) => delete a.slots['field'],
      ['answers[0].slots.field: Neither a slot nor a pattern says which field is at fault.'],
    ],
    [
      'whose verdict stands nowhere',
      (a) => delete a.slots['verdict'],
      ['answers[0].slots.verdict: Verdicts have words, but no column holds them.'],
    ],
    [
      'of JSON, with a slot that is no path',
      (a) => {
        a['container'] = { kind: 'json', records: 'all' };
        a.slots['code'] = 'notes[].id';
        a.slots['number'] = 'a..b';
      },
      ['answers[0].slots.number: "a..b" is no path, such as token or notes[].id.'],
    ],
    [
      'of XML, with attributes',
      (a) => {
        a['container'] = { kind: 'xml', root: 'all', record: 'one' };
        a.slots['number'] = '@no';
        a.slots['code'] = 'a b';
      },
      ['answers[0].slots.code: "a b" is no path, such as token or notes[].id.'],
    ],
  ])('%s', (_, change, faults) => {
    expect(answer(change)).toEqual(faults);
  });
  it('that is the file itself names columns of its form, or those that were added', () => {
    expect(
      loft((d) => {
        const [first] = d['answers'] as (Loose & { slots: Loose })[];
        first!.slots['sku'] = 'sku';
        first!.slots['number'] = 'word';
      }),
    ).toEqual(['answers[0].slots.sku: Files of the form "book" have no column "sku".']);
  });
  it('that is the file itself is of files with columns, whichever forms it is to', () => {
    expect(
      loft((d) => {
        (d['answers'] as Loose[]).splice(0, 1);
        delete (d['answers'] as Loose[])[0]!['to'];
        formsOf(d)[1]!['container'] = { kind: 'json-lines' };
      }),
    ).toEqual(
      expect.arrayContaining([
        'answers[0].slots.sku: Files of the form "book" have no column "sku".',
        'answers[0].container: The form "terms" has no columns to which some could be added.',
      ]),
    );
  });
});

describe('a list', () => {
  it('is known by its header row, and says what attributes hold', () => {
    expect(
      joining((d) => {
        const { find, shelf } = d['lists'] as Record<string, { container: Loose; slots: Loose & { facts: Loose } }>;
        shelf!.container['heads'] = [];
        find!.slots.facts['ghost'] = 'x';
      }),
    ).toEqual([
      'lists.find.slots.facts.ghost: There is no attribute "ghost".',
      'lists.shelf.container.heads: Columns of a list are known by a header row.',
    ]);
  });
});

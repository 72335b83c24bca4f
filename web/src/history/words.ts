// What the history tells, in words.
import type { HistoryFact } from '@basileus/contract';
import { wordSchedule } from '@basileus/core/change';
import { count, plural, say, when, wordFor, forms } from '../ui/text';
import { wordSource } from '../words/sources';
import { operationNames } from '../ui/terms';

const wordSaid = (source: Parameters<typeof wordSource>[0] | null): string =>
  source === null ? say`what is said above` : wordSource(source);

const wished: Record<'keep' | 'withdraw' | 'restore', [string, string]> = {
  keep: forms('is to stay', 'are to stay'),
  withdraw: forms('is to be withdrawn', 'are to be withdrawn'),
  restore: forms('is to be restored', 'are to be restored'),
};

/** What was said of entries that a market has already. */
function wordJudged({ as, rows }: Extract<HistoryFact, { is: 'entries-judged' }>): string {
  const items = plural(rows, 'item', 'items');
  switch (as) {
    case 'joined':
      return say`decided that ${items} ${wordFor(rows, 'joins an entry that is there', 'join entries that are there')}`;
    case 'other':
      return say`decided that ${items} ${wordFor(rows, 'is another than the entry there', 'are others than the entries there')}`;
    case 'found':
      return say`left open whether ${items} ${wordFor(rows, 'joins an entry that is there', 'join entries that are there')}`;
  }
}

const ourOwn = {
  field: say`the field`,
  category: say`the category`,
  language: say`the language`,
  currency: say`the currency`,
} as const;

/** A deed in words: what was done, and the detail beside it. */
export function wordHistory(fact: HistoryFact): { what: string; detail: string } {
  const rowsTo = (did: string): { what: string; detail: string } =>
    'operation' in fact
      ? {
          what: say`${did} ${plural(fact.rows, 'row', 'rows')} to ${fact.market} (${operationNames[fact.operation]})`,
          detail: fact.file,
        }
      : { what: did, detail: '' };
  switch (fact.is) {
    case 'added':
      return { what: say`added ${fact.sku}`, detail: fact.title };
    case 'changed':
      return {
        what: say`changed ${fact.title}`,
        detail: [
          plural(fact.cells, 'cell', 'cells'),
          fact.removed ? say`${plural(fact.removed, 'item', 'items')} removed` : '',
        ]
          .filter(Boolean)
          .join(', '),
      };
    case 'imported':
      return { what: say`imported ${fact.name}`, detail: plural(fact.rows, 'row', 'rows') };
    case 'import-timed':
      return {
        what:
          fact.at === null
            ? say`took the time of ${fact.name} away`
            : say`let ${fact.name} be written at ${when(fact.at)}`,
        detail: '',
      };
    case 'import-stopped':
      return { what: say`stopped importing ${fact.name}`, detail: plural(fact.rows, 'row', 'rows') };
    case 'in-force':
      return { what: say`put the ${fact.market} rulebook ${fact.version} in force`, detail: '' };
    case 'wished':
      return {
        what: say`decided that ${plural(fact.rows, 'listing', 'listings')} ${wordFor(fact.rows, ...wished[fact.wish])}`,
        detail: fact.market,
      };
    case 'sending-said':
      return {
        what: {
          set: say`let go to ${fact.market} by the clock:`,
          changed: say`changed what goes to ${fact.market} by the clock:`,
          'called-off': say`called off what went to ${fact.market} by the clock:`,
        }[fact.how],
        detail: [
          fact.operations.map((o) => operationNames[o]).join(', '),
          ...(fact.schedule ? [wordSchedule(fact.schedule)] : fact.at ? [when(fact.at)] : []),
          ...(fact.rows > 0 ? [plural(fact.rows, 'row', 'rows')] : []),
        ].join(' · '),
      };
    case 'wanted':
      return {
        what: `${fact.wanted ? say`took in` : say`left out`} ${plural(fact.rows, 'listing', 'listings')}`,
        detail: fact.market,
      };
    case 'entries-judged':
      return { what: wordJudged(fact), detail: fact.market };
    case 'built':
      return rowsTo('built');
    case 'sent':
      return rowsTo('sent');
    case 'stopped':
      return rowsTo('stopped');
    case 'abandoned':
      return rowsTo('abandoned');
    case 'settled-by-shelf':
      return rowsTo(say`settled by the shelf`);
    case 'let-go':
      return {
        what: say`let ${plural(fact.rows, 'refused line', 'refused lines')} of dispatch ${fact.dispatch} go`,
        detail: fact.code,
      };
    case 'market-added':
      return { what: say`added the market ${fact.market}`, detail: say`rulebook ${fact.version}` };
    case 'market-changed':
      return { what: say`changed ${fact.market}`, detail: fact.what.join(', ') };
    case 'rate-said':
      return { what: say`set the rate of ${fact.currency}`, detail: fact.rate };
    case 'own-said':
      return {
        what: `${fact.how} ${ourOwn[fact.what]} ${fact.name}`,
        detail:
          fact.how === 'moved'
            ? fact.to === null
              ? say`to the top`
              : say`under ${fact.to}`
            : fact.to === null
              ? ''
              : say`to ${fact.to}`,
      };
    case 'source-said':
      return {
        what: say`chose what fills ${fact.attribute} on ${fact.market}`,
        detail: [
          fact.category === null ? [] : say`for ${fact.category}`,
          say`${wordSaid(fact.before)} became ${wordSaid(fact.after)}`,
        ]
          .flat()
          .join(': '),
      };
    case 'codes-said':
      return {
        what:
          fact.values > 1
            ? say`matched ${plural(fact.values, 'value', 'values')} on ${fact.market}`
            : say`${fact.theirs === null ? say`forgot the match of` : 'matched'} ${fact.ours} on ${fact.market}`,
        detail: [
          fact.category === null ? [] : say`for ${fact.category}`,
          fact.attribute,
          fact.theirs === null ? [] : say`${fact.ours} is ${fact.theirs}`,
        ]
          .flat()
          .join(', '),
      };
    case 'market-removed':
      return {
        what: say`removed the market ${fact.market}`,
        detail: say`${plural(fact.rows, 'listing', 'listings')} with it`,
      };
    case 'person-said':
      return {
        what: fact.how === 'came' ? say`${fact.name} is one of the people here` : say`${fact.name} has left`,
        detail: '',
      };
    case 'laid-out':
      return {
        what: say`laid out the demo of Brindlewick Housewares`,
        detail: say`${count(fact.live)} listings are live from the start`,
      };
    case 'said':
      return { what: `${fact.action} ${fact.subject}`, detail: fact.detail };
  }
}

// What the history tells, in words.
import type { HistoryFact } from '@basileus/contract';
import { count, plural } from '../ui/text';
import { wordSource } from '../words/sources';

const wordSaid = (source: Parameters<typeof wordSource>[0] | null): string =>
  source === null ? 'what is said above' : wordSource(source);

const wished = { keep: 'are to stay', withdraw: 'are to be withdrawn', restore: 'are to be restored' } as const;

/** What was said of entries that a market has already. */
function wordJudged({ as, rows }: Extract<HistoryFact, { is: 'entries-judged' }>): string {
  const items = plural(rows, 'item', 'items'),
    isOne = rows === 1;
  switch (as) {
    case 'joined':
      return `decided that ${items} ${isOne ? 'joins an entry that is there' : 'join entries that are there'}`;
    case 'other':
      return `decided that ${items} ${isOne ? 'is another than the entry there' : 'are others than the entries there'}`;
    case 'found':
      return `left open whether ${items} ${isOne ? 'joins an entry that is there' : 'join entries that are there'}`;
  }
}

const ourOwn = {
  field: 'the field',
  category: 'the category',
  language: 'the language',
  currency: 'the currency',
} as const;

/** A deed in words: what was done, and the detail beside it. */
export function wordHistory(fact: HistoryFact): { what: string; detail: string } {
  const rowsTo = (did: string): { what: string; detail: string } =>
    'operation' in fact
      ? {
          what: `${did} ${plural(fact.rows, 'row', 'rows')} to ${fact.market} (${fact.operation})`,
          detail: fact.file,
        }
      : { what: did, detail: '' };
  switch (fact.is) {
    case 'added':
      return { what: `added ${fact.sku}`, detail: fact.title };
    case 'changed':
      return {
        what: `changed ${fact.title}`,
        detail: [
          plural(fact.cells, 'cell', 'cells'),
          fact.removed ? `${plural(fact.removed, 'item', 'items')} removed` : '',
        ]
          .filter(Boolean)
          .join(', '),
      };
    case 'imported':
      return { what: `imported ${fact.name}`, detail: plural(fact.rows, 'row', 'rows') };
    case 'import-stopped':
      return { what: `stopped importing ${fact.name}`, detail: plural(fact.rows, 'row', 'rows') };
    case 'in-force':
      return { what: `put the ${fact.market} rulebook ${fact.version} in force`, detail: '' };
    case 'wished':
      return {
        what: `decided that ${plural(fact.rows, 'listing', 'listings')} ${fact.rows === 1 ? wished[fact.wish].replace('are', 'is') : wished[fact.wish]}`,
        detail: fact.market,
      };
    case 'wanted':
      return {
        what: `${fact.wanted ? 'took in' : 'left out'} ${plural(fact.rows, 'listing', 'listings')}`,
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
      return rowsTo('settled by the shelf');
    case 'let-go':
      return {
        what: `let ${plural(fact.rows, 'refused line', 'refused lines')} of dispatch ${fact.dispatch} go`,
        detail: fact.code,
      };
    case 'market-added':
      return { what: `added the market ${fact.market}`, detail: `rulebook ${fact.version}` };
    case 'market-changed':
      return { what: `changed ${fact.market}`, detail: fact.what.join(', ') };
    case 'rate-said':
      return { what: `set the rate of ${fact.currency}`, detail: fact.rate };
    case 'own-said':
      return {
        what: `${fact.how} ${ourOwn[fact.what]} ${fact.name}`,
        detail:
          fact.how === 'moved'
            ? fact.to === null
              ? 'to the top'
              : `under ${fact.to}`
            : fact.to === null
              ? ''
              : `to ${fact.to}`,
      };
    case 'source-said':
      return {
        what: `chose what fills ${fact.attribute} on ${fact.market}`,
        detail: [
          fact.category === null ? [] : `for ${fact.category}`,
          `${wordSaid(fact.before)} became ${wordSaid(fact.after)}`,
        ]
          .flat()
          .join(': '),
      };
    case 'codes-said':
      return {
        what:
          fact.values > 1
            ? `matched ${plural(fact.values, 'value', 'values')} on ${fact.market}`
            : `${fact.theirs === null ? 'forgot the match of' : 'matched'} ${fact.ours} on ${fact.market}`,
        detail: [
          fact.category === null ? [] : `for ${fact.category}`,
          fact.attribute,
          fact.theirs === null ? [] : `${fact.ours} is ${fact.theirs}`,
        ]
          .flat()
          .join(', '),
      };
    case 'market-removed':
      return {
        what: `removed the market ${fact.market}`,
        detail: `${plural(fact.rows, 'listing', 'listings')} with it`,
      };
    case 'laid-out':
      return {
        what: 'laid out the demo of Brindlewick Housewares',
        detail: `${count(fact.live)} listings are live from the start`,
      };
    case 'said':
      return { what: `${fact.action} ${fact.subject}`, detail: fact.detail };
  }
}

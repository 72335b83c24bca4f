// Rulebooks of the first format as rulebooks of the second: the same market, said in the newer words.
import type { z } from 'zod';
import { identifierKinds, type IdentifierKind } from '../identifiers';
import type { FormatOne } from './format-1';
import type { rulebookSchema } from './schema';
import type { Operation } from './terms';

type Input = z.input<typeof rulebookSchema>;
type OldLayout = FormatOne['layouts'][number];

const carried: Record<Operation, 'whole' | 'changed' | 'keys'> = {
  create: 'whole',
  offer: 'whole',
  replace: 'whole',
  revise: 'changed',
  price: 'changed',
  stock: 'changed',
  withdraw: 'keys',
  restore: 'keys',
};

/** The site of a market that has only one. */
export const onlySite = 'main';

/** A document of the first format, already found well formed, in the second. */
export function upgradeRulebook(old: FormatOne): Input {
  const { country, currency, pricesInclude, taxRate, ...market } = old.market;
  const { burntWhenWithdrawn, ...sku } = old.sku;
  const { layouts, receipt, transport, states, tree, attributes, fees, ...same } = old;
  const { identifier_kind: kinds, ...codeLists } = old.codeLists;
  const kindCodes = Object.fromEntries(
    (kinds?.entries ?? []).flatMap((e) =>
      identifierKinds.includes(e.label as IdentifierKind) ? [[e.label, e.code]] : [],
    ),
  );
  return {
    ...same,
    format: 'basileus-rulebook/2',
    market,
    sites: [
      {
        key: onlySite,
        name: market.name,
        country,
        currency,
        languages: market.languages,
        pricesInclude,
        taxes: [{ rate: taxRate }],
      },
    ],
    sku: { ...sku, reuse: burntWhenWithdrawn ? 'never' : 'free' },
    codeLists: attributes.some((a) => a.codes === 'identifier_kind') ? old.codeLists : codeLists,
    attributes: attributes.map(({ languages: _, ...a }) => a),
    tree: tree.map(({ leaf, ...n }) => ({ ...n, ...(leaf ? { takesItems: true, ...leaf } : {}) })),
    fees: fees.commission.map((c) => ({ ...c, paymentRate: fees.paymentRate, fixed: fees.fixed })),
    operations: Object.fromEntries(
      layouts.flatMap((l) =>
        l.operations.map((o) => {
          const code = l.operationCodes[o];
          return [o, { form: l.key, carries: carried[o], ...(code ? { code } : {}) }];
        }),
      ),
    ),
    forms: layouts.map((l) => upgradeLayout(l, kindCodes)),
    answers: [
      {
        key: 'receipt',
        container: { kind: 'delimited', delimiter: receipt.delimiter, heads: [{ row: 'keys' }] },
        slots: receipt.columns,
        verdict: {
          words: {
            [receipt.verdicts.accepted]: 'accepted',
            [receipt.verdicts.remarked]: 'remarked',
            [receipt.verdicts.refused]: 'refused',
          },
        },
      },
    ],
    codes: receipt.codes,
    // The shelf list of the first format was the same for every market.
    lists: {
      shelf: {
        container: { kind: 'delimited', delimiter: 'tab', before: ['^cursor\\t.+$'], heads: [{ row: 'keys' }] },
        slots: { sku: 'house_sku', number: 'entry', state: 'standing', reason: 'reason', since: 'stamp' },
      },
      ...(transport.find
        ? {
            find: {
              container: { kind: 'delimited' as const, delimiter: 'tab' as const, heads: [{ row: 'keys' as const }] },
              slots: { number: 'number', title: 'title', brand: 'brand', identifier: 'item_number', category: 'shelf' },
            },
          }
        : {}),
    },
    states: Object.fromEntries(
      Object.entries(states).map(([word, is]) => [
        word,
        { is, entry: is === 'refused' || (is === 'withdrawn' && burntWhenWithdrawn) ? 'gone' : 'stands' },
      ]),
    ),
    transport:
      transport.kind === 'by-hand'
        ? { kind: 'by-hand' }
        : {
            kind: 'http',
            submit: {
              path: `${transport.submit}?operation={operation}&name={name}`,
              contentType: 'text/tab-separated-values; charset=utf-8',
              taken: [202],
              ticket: { in: 'body', pattern: '(?m)^ticket\\t(?<found>\\S+)' },
            },
            answer: { path: transport.receipt, waiting: [202] },
            shelf: {
              path: `${transport.shelf}?since={cursor}`,
              cursor: { in: 'body', pattern: '^cursor\\t(?<found>.+)' },
            },
            ...(transport.find ? { find: `${transport.find}?q={words}` } : {}),
            page: '/item/{number}',
          },
  };
}

function upgradeLayout(layout: OldLayout, kindCodes: Record<string, string>): Input['forms'][number] {
  const { key, label, blank, clearToken, maxRows, fileName, columns } = layout;
  const { encoding, delimiter, lineEnd, headerRows, decimalSign, listSeparator, yes, no } = layout;
  return {
    key,
    label,
    record: 'listing',
    container: { kind: 'delimited', encoding, delimiter, lineEnd, heads: headerRows.map((row) => ({ row })) },
    text: { decimalSign, listSeparator, yes, no },
    blank,
    ...(clearToken === undefined ? {} : { clear: clearToken }),
    maxRecords: maxRows,
    fileName,
    slots: columns.map(({ holds, ...slot }) => ({
      ...slot,
      holds:
        holds.what === 'row-role'
          ? { what: 'row-role', codes: layout.roleCodes }
          : holds.what === 'identifier-kind'
            ? { ...holds, codes: kindCodes }
            : holds,
    })),
  };
}

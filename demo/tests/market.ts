// A market of the demo made ready for judging: its checks, and the demo's items as listings there, each by itself.
import { prepareChecks } from '@basileus/core/checks';
import { type FeedRow, findForm, writeForm } from '@basileus/core/forms';
import { type Listing, resolveListing } from '@basileus/core/listing';
import { compileCategory, type Form, listLeaves, parseRulebook, type Rulebook } from '@basileus/core/rulebook';
import { buildCatalog } from '../catalog';
import { demoMarkets } from '../markets';
import { sayTexts } from './said';

export interface JudgedMarket {
  document: unknown;
  book: Rulebook;
  form: Form;
  /** Singles and variants of the demo, each as a row by itself. */
  listings: Listing[];
  /** Fields in which our checks find blockers, but for those named as ours alone (`check/message`). */
  judgeOurs: (listing: Listing) => string[];
  /** The file of whole entries with this listing alone. */
  writeAlone: (listing: Listing) => string;
}

export function openJudgedMarket(key: string, oursAlone: ReadonlySet<string>): JudgedMarket {
  const market = demoMarkets.find((m) => m.key === key)!;
  const reading = parseRulebook(market.document);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  const book = reading.rulebook;
  const form = findForm(book, 'create')!;
  const compiled = new Map(
    listLeaves(book).map((leaf) => {
      const c = compileCategory(book, leaf.key)!;
      return [leaf.key, { c, check: prepareChecks(c) }] as const;
    }),
  );
  const decided = sayTexts(market.texts);
  const listings = [...buildCatalog()].flatMap((p): Listing[] => {
    const category = market.categories.get(String(p.fields['category']));
    const made = category && compiled.get(category);
    if (!made || p.kind === 'family' || p.kind === 'bundle') return [];
    return [
      {
        sku: String(p.fields['sku']),
        role: 'single',
        parentSku: undefined,
        category,
        axes: [],
        values: resolveListing(made.c, p.fields, 'single', {}, decided).values,
        cost: undefined,
        accepted: undefined,
      },
    ];
  });
  return {
    document: market.document,
    book,
    form,
    listings,
    judgeOurs: (l) =>
      compiled
        .get(l.category)!
        .check(l)
        .filter((f) => f.level === 'blocker' && !oursAlone.has(`${f.check}/${f.message}`))
        .map((f) => f.field),
    writeAlone: ({ sku, category, values }) => {
      const row: FeedRow = {
        operation: 'create',
        sku,
        role: 'single',
        parentSku: undefined,
        axes: [],
        category,
        values,
        cleared: [],
      };
      return writeForm(book, form, [row]);
    },
  };
}

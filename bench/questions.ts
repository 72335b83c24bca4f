// Questions over any field of 100,000 items, counted, each beside a bare pass over the same rows; written as a section of
// docs/measurements.md.
import { cpus } from 'node:os';
import { type Clause, whichSchema } from '@basileus/core/choose';
import { compileFields, firstFields } from '@basileus/core/product';
import { countWhich } from '../server/choose';
import { rowOf } from '../server/database';
import { openItemHouse } from './item-house';
import { median } from './measure';
import { writeSection } from './section';

const book = compileFields(firstFields);
const rounds = 15;
const clauses: [string, Clause][] = [
  ['Brand is', { is: 'equals', field: 'brand', value: 'Greyfell' }],
  ['SKU starts with', { is: 'starts', field: 'sku', value: 'sku-77' }],
  ['Title contains', { is: 'contains', field: 'title', value: 'number 77' }],
  ['Title contains not', { is: 'lacks', field: 'title', value: 'number 77' }],
  ['Description contains', { is: 'contains', field: 'description', value: 'number 77' }],
  ['Description in German contains', { is: 'contains', field: 'fact.description@de', value: 'Nummer 77' }],
  ['Price over', { is: 'over', field: 'price', value: '60' }],
  ['Price ends in .99', { is: 'ends', field: 'price', value: '.99' }],
  ['Price in euro under', { is: 'under', field: 'fact.price@eur', value: '30' }],
  ['Price in euro between', { is: 'between', field: 'fact.price@eur', from: '30', to: '60' }],
  ['Colour is empty', { is: 'empty', field: 'fact.colour' }],
  ['Colour is one of', { is: 'one-of', field: 'fact.colour', values: ['Blue', 'Cream'] }],
  ['Width over, in another unit', { is: 'over', field: 'fact.width', value: '300 mm' }],
  ['Highlights has the entry', { is: 'equals', field: 'highlights', value: 'Stacks' }],
  ['Highlights contains', { is: 'contains', field: 'highlights', value: 'handle' }],
  ['Stock is', { is: 'equals', field: 'stock', value: '0' }],
  ['Stock over', { is: 'over', field: 'stock', value: '10' }],
];
const { db, close } = await openItemHouse('bench_questions');
try {
  const time = async (work: () => Promise<unknown>): Promise<number> => {
    const started = performance.now();
    await work();
    return performance.now() - started;
  };
  const bare = (): Promise<unknown> =>
    rowOf(db, `select count(*)::int as n from products where mpn is distinct from 'FP-7'`);
  const lines: string[] = [];
  for (const [name, clause] of clauses) {
    const ours: number[] = [],
      passes: number[] = [];
    const which = whichSchema.parse({ clauses: [clause] });
    for (let i = 0; i < rounds; i++) {
      passes.push(await time(bare));
      ours.push(await time(() => countWhich(db, which, book)));
    }
    const [a, b] = [median(ours), median(passes)];
    lines.push(
      `| ${name} | ${Math.round(a)} ms | ${Math.round(Math.min(...ours))} ms | ${Math.round(b)} ms | ${(a / b).toFixed(1)} | ${a < 100 ? 'met' : 'missed'} |`,
    );
    console.log(lines.at(-1));
  }
  writeSection(
    process.env['BASILEUS_ROOT']!,
    `## Questions over any field

Made by \`npm run bench questions\`, which writes this section: how many of 100,000 items a condition means, medians of ${rounds} runs in turn with a bare pass that
looks at one column of each of the same rows; ${cpus().length} cores. Aim: under 100 ms.

| Condition | Basileus | At its quickest | A bare pass | Ratio | Aim |
| --- | --- | --- | --- | --- | --- |
${lines.join('\n')}
`,
  );
} finally {
  await close();
}

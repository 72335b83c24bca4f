// What each container costs beside the bare library, written as a table to docs/measurements.md.
import { cpus } from 'node:os';
import { samplePair } from './measure';
import { writeSection } from './section';

const pairs: readonly (readonly [name: string, ours: string, reference: string, referenceName: string])[] = [
  [
    'Writing 100,000 records of lines of JSON',
    'write-json',
    'write-json-reference',
    'JSON.stringify of the same objects',
  ],
  ['Reading them back into rows', 'read-json', 'read-json-reference', 'JSON.parse line by line'],
  [
    'Writing 100,000 records of XML',
    'write-xml',
    'write-xml-reference',
    'fast-xml-parser’s builder on the same objects',
  ],
  ['Reading them back into rows', 'read-xml', 'read-xml-reference', 'saxes, keeping nothing'],
  [
    'Writing 100,000 rows in 20,000 lines of families, in bytes of Shift_JIS',
    'write-family',
    'write-family-reference',
    'papaparse.unparse of the same cells, encoded by iconv-lite',
  ],
  ['Reading them back into rows', 'read-family', 'read-family-reference', 'TextDecoder, then papaparse into cells'],
  [
    'Writing 100,000 records of 12 cells into a workbook',
    'write-sheet',
    'write-sheet-reference',
    'exceljs, streaming, the same cells',
  ],
  ['Reading them back into rows', 'read-sheet', 'read-sheet-reference', 'exceljs, streaming, into cells'],
];
const lines: string[] = [];
for (const [name, ours, reference, referenceName] of pairs) {
  const s = await samplePair({ task: ours, args: [] }, { task: reference, args: [] }, 5);
  console.log(name, s);
  lines.push(
    `| ${name} | ${s.ours.seconds.toFixed(2)} s, ${s.ours.peakMb} MB | ${referenceName}: ${s.reference.seconds.toFixed(2)} s, ${s.reference.peakMb} MB | ${(s.ours.seconds / s.reference.seconds).toFixed(2)} |`,
  );
}
writeSection(
  process.env['BASILEUS_ROOT']!,
  `## Containers

Made by \`npm run bench containers\`, which writes this section: medians of five runs in turn, ${cpus().length} cores. Rows of the whole form of Cedarpost, of Wadiline, of Lumbara and of a market of workbooks; ours makes the cells of
each slot from a row (units, money, codes) and rows from them again, the reference does the container's own work alone. Aim: at most 1.5.

| Work | Basileus | Reference | Ratio |
| --- | --- | --- | --- |
${lines.join('\n')}
`,
);

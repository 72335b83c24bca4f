// Files that were made to break the reading, from a seed: each is read to its end or refused with a sentence, and no row of
// what is read vanishes.
import { describe, expect, it } from 'vitest';
import { makeHostileFile } from '../tests/hostile-files';
import { fields, sayProblem } from '../tests/house-fields';
import { createRandom } from '../tests/random';
import {
  classifyRow,
  createRowReader,
  createTextDecoder,
  detectDelimiter,
  findRowFaults,
  type ImportReading,
  openWorkbook,
  planRow,
  SheetError,
  sniffFile,
  understandSheet,
} from '.';

/** Reads a file as the application does, without its database. */
async function read(bytes: Uint8Array): Promise<'refused' | { lines: number; told: number }> {
  const kind = sniffFile(bytes.subarray(0, 200_000));
  if (kind.kind === 'empty' || kind.kind === 'binary') return 'refused';
  const rows: string[][] = [];
  let delimiter: ReturnType<typeof detectDelimiter>['delimiter'] | undefined;
  if (kind.kind === 'workbook') {
    const source = async function* () {
      yield await Promise.resolve(bytes);
    };
    for await (const batch of (await openWorkbook(source)).rows()) rows.push(...batch);
  } else {
    const text = createTextDecoder(kind.encoding).push(bytes);
    delimiter = detectDelimiter(text.slice(0, 100_000)).delimiter;
    const reader = createRowReader(delimiter);
    for (let i = 0; i < text.length; i += 5000) rows.push(...reader.push(text.slice(i, i + 5000)));
    rows.push(...reader.end());
  }
  const u = understandSheet(rows.slice(0, 250), fields);
  const reading: ImportReading = {
    columns: u.columns.flatMap((c) => (c.field ? [{ index: c.index, field: c.field }] : [])),
    decimalSign: u.decimalSign === ',' ? ',' : '.',
    listSeparator: '|',
    mode: 'both',
    blankClears: false,
    acceptMended: true,
  };
  const width = Math.max(0, ...u.columns.map((c) => c.index + 1));
  const shape = {
    delimiter,
    width,
    skuAt: reading.columns.find((c) => c.field === 'sku')?.index ?? -1,
    used: new Set(reading.columns.map((c) => c.index)),
  };
  const seen = new Map<string, number>();
  let told = 0;
  for (const [i, cells] of rows.slice(u.headerRow + 1).entries()) {
    if (classifyRow(cells, width) !== 'item') {
      told++;
      continue;
    }
    const { problems } = findRowFaults(cells, shape, (n) => `Column ${n + 1}`);
    const planned = planRow(cells, reading, undefined, { fields, seen, faults: problems });
    if (planned.sku) seen.set(planned.sku, i);
    if (planned.action === 'refuse')
      expect(planned.problems.some((p) => p.level === 'blocker' && sayProblem(p).length > 10)).toBe(true);
    told++;
  }
  return { lines: rows.length - Math.min(rows.length, u.headerRow + 1), told };
}

describe('a hostile file', () => {
  it.each([1, 2])('of seed %d is read to its end, or refused with a sentence', { timeout: 120_000 }, async (seed) => {
    const random = createRandom(seed);
    let wereRead = 0,
      wereRefused = 0;
    for (let i = 0; i < 80; i++) {
      const file = makeHostileFile(random);
      const began = Date.now();
      try {
        const outcome = await read(file.bytes);
        if (outcome === 'refused') wereRefused++;
        else {
          expect(outcome.told, `${seed}/${i}: ${file.about}`).toBe(outcome.lines);
          wereRead++;
        }
      } catch (error) {
        if (!(error instanceof SheetError)) throw new Error(`${seed}/${i}: ${file.about}`, { cause: error });
        expect(error.message, file.about).toMatch(/^[A-Z“].{15,}\.$/);
        wereRefused++;
      }
      expect(Date.now() - began, `${seed}/${i}: ${file.about}`).toBeLessThan(20_000);
    }
    expect(wereRead).toBeGreaterThan(25);
    expect(wereRefused).toBeGreaterThan(5);
  });
});

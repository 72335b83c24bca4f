import { constants, deflateRawSync, inflateRawSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { createWorkbookPacker, type DeflatePiece, openWorkbook } from '.';
import { sheetFoot, sheetHead, writeSheetRow } from './sheet-text';

const native: DeflatePiece = (bytes) => deflateRawSync(bytes, { finishFlush: constants.Z_SYNC_FLUSH });
const join = (parts: readonly Uint8Array[]): Buffer => Buffer.concat(parts);

/** A sheet of so many rows, handed over a row at a time. */
function pack(rows: number, deflate?: DeflatePiece): Buffer {
  const packer = createWorkbookPacker('Sheet', {}, deflate);
  const parts = [packer.push(sheetHead(1))];
  for (let n = 1; n <= rows; n++)
    parts.push(packer.push(writeSheetRow(n, [`row ${n}`, { number: String(n) }, 'ö € 漢 & <b>', 'x'.repeat(200)])));
  parts.push(packer.push(sheetFoot), packer.end());
  return join(parts);
}
async function readRows(bytes: Buffer): Promise<string[][]> {
  const workbook = await openWorkbook(async function* () {
    yield await Promise.resolve(bytes);
  });
  const rows: string[][] = [];
  for await (const some of workbook.rows('Sheet')) rows.push(...some.map((r) => [...r]));
  return rows;
}

describe('a workbook whose sheet is deflated piece by piece by the machine', () => {
  it('reads as the same as one that is deflated in JavaScript, over many pieces', async () => {
    const machine = pack(3000, native);
    expect(await readRows(machine)).toEqual(await readRows(pack(3000)));
    expect((await readRows(machine)).length).toBe(3000);
    expect(machine.length).toBeLessThan(100_000);
  });
  it('holds small pieces together, so that what repeats is found', () => {
    let calls = 0;
    pack(3000, (bytes) => {
      calls++;
      return native(bytes);
    });
    // Five parts beside the sheet, each deflated as a whole; the sheet of some 1.1 MB in pieces of a quarter of one.
    expect(calls).toBeGreaterThan(5);
    expect(calls).toBeLessThan(12);
  });
  it('is one stream of blocks, of which the last is empty (RFC 1951)', () => {
    const made = join([native(Buffer.from('one')), native(Buffer.from('two')), Buffer.from([3, 0])]);
    expect(inflateRawSync(made).toString()).toBe('onetwo');
  });
});

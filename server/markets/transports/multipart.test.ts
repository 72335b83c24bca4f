// A market that takes a file as a part of a form and answers in an encoding of its own, against the real stand-in.
import { findForm, writeForm } from '@basileus/core/forms';
import { parseRulebook } from '@basileus/core/rulebook';
import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import { type BookDocument, type RunningMarket, startMarket } from '@basileus/standins/lumbara';
import iconv from 'iconv-lite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { until } from '../../tests/house';
import { decodeText, readCharset } from '../decode';
import { openFreeGate } from '../gate';
import type { Market } from '../load';
import { type MarketPort, openMarketPort } from '../port';

const reading = parseRulebook(lumbaraDocument);
if (!reading.ok) throw new Error('The rulebook is not valid.');
const { rulebook } = reading;
let market: RunningMarket, port: MarketPort;
beforeAll(async () => {
  const n = await new Promise<number>((done) => {
    market = startMarket({ book: lumbaraDocument as BookDocument, workMs: 30, reviewMs: 10, sellEveryMs: 0 }, 0, done);
  });
  port = openMarketPort(
    { name: 'Lumbara', rulebook, connection: { url: `http://127.0.0.1:${n}` } } as unknown as Market,
    openFreeGate(undefined),
  );
});
afterAll(async () => {
  await market.stop();
});

const form = findForm(rulebook, 'create')!;
const file = (key: string, title: string, encoding = 'shift_jis') => ({
  name: '帳面.csv',
  operation: 'create',
  form: form.key,
  key,
  records: 1,
  bytes: iconv.encode(
    writeForm(rulebook, form, [
      {
        operation: 'create',
        sku: 'POT-1',
        role: 'single',
        parentSku: undefined,
        axes: [],
        category: 'furaipan',
        values: { na: title },
        cleared: [],
      },
    ]),
    encoding,
  ),
});

describe('a file as a part of a form', () => {
  it('arrives byte by byte, under a key that is its own, and is answered in the market’s encoding', async () => {
    const ticket = await port.submit(file('part-1', '片手鍋'));
    expect(await port.submit(file('part-1', '片手鍋'))).toBe(ticket);
    expect(await port.submit(file('part-2', '片手鍋'))).not.toBe(ticket);
    expect(Object.values(market.shelf.memory.files).map((f) => f.key)).toEqual(['part-1', 'part-2']);
    const answer = await until(
      () => port.fetchReceipt(ticket, form.key),
      (a) => a !== undefined,
    );
    expect(answer).toMatch(/"裁き","添え書き"\r\n"1","POT-1","310204","片手鍋",/);
    expect(answer).toMatch(/,"9","302:呼び名\/301:[^"]*"\r\n$/);
  });
  it('is turned away where it is in another encoding, with what the market says', async () => {
    await expect(port.submit(file('part-3', '片手鍋', 'utf-8'))).rejects.toMatchObject({
      code: 'bad-input',
      message: 'Lumbara did not take the file: 文字が読めません。',
    });
  });
});

describe('text of an answer', () => {
  const bytes = iconv.encode('片手鍋', 'shift_jis');
  it.each([
    ['in the encoding that the rulebook names', undefined, 'shift_jis', '片手鍋'],
    ['in the charset that the market says', 'Shift_JIS', 'utf-8', '片手鍋'],
    ['in that of the rulebook, where the charset is a word that nobody knows', 'klingon', 'shift_jis', '片手鍋'],
  ] as const)('is read %s', async (_, charset, encoding, text) => {
    expect(await decodeText(bytes, encoding, charset)).toBe(text);
  });
  it.each([
    ['text/csv; charset=Shift_JIS', 'Shift_JIS'],
    ['text/csv;header=present;charset="utf-8"', 'utf-8'],
    ['text/csv', undefined],
    [null, undefined],
  ])('says its charset in %s', (header, charset) => {
    expect(readCharset(header)).toBe(charset);
  });
});

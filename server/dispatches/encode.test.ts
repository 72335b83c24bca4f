import type { Container, Encoding } from '@basileus/core/rulebook';
import { describe, expect, it } from 'vitest';
import { createFeedEncoder } from './encode';

const container: Extract<Container, { kind: 'delimited' }> = {
  kind: 'delimited',
  encoding: 'utf-8',
  delimiter: 'tab',
  lineEnd: 'crlf',
  quotes: 'needed',
  before: [],
  heads: [{ row: 'keys' }],
};
const whole = (encoding: Encoding, text: string) => {
  const encoder = createFeedEncoder({ ...container, encoding });
  return Buffer.concat([encoder.mark, encoder.encode(text), encoder.end()]);
};

describe('a feed file', () => {
  // The bytes are those of the WHATWG Encoding Standard; its TextDecoder reads them back as reference. It is asked for a stream,
  // since Node 20 reads windows-1252 asked for at once as Latin-1.
  it.each([
    ['utf-8', 'utf-8', '4361 66c3 a9e2 82ac'],
    ['utf-8-mark', 'utf-8', 'efbb bf43 6166 c3a9 e282 ac'],
    ['windows-1252', 'windows-1252', '4361 66e9 80'],
    ['utf-16le', 'utf-16le', 'fffe 4300 6100 6600 e900 ac20'],
  ] as const)('in %s has the bytes of that encoding', (encoding, label, hex) => {
    const bytes = whole(encoding, 'Café€');
    expect(bytes.toString('hex')).toBe(hex.replaceAll(' ', ''));
    expect(new TextDecoder(label).decode(bytes, { stream: true })).toBe('Café€');
  });
  it('is refused, with the row and the character, where its encoding cannot hold one', () => {
    expect(() => whole('windows-1252', 'PAN-1\tCafé\r\nPAN-2\t日本\r\n')).toThrow(
      'The row of PAN-2 holds “日”, which Windows-1252, the encoding of this file, cannot hold.',
    );
    expect(whole('utf-16le', '日').toString('hex')).toBe('fffee565');
  });
});

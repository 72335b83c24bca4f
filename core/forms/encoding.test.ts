// What an encoding holds, held against Python's codecs: cp932 is what Windows makes of Shift_JIS, which is what the WHATWG
// Encoding Standard describes under that name.
import { execFileSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { countBytes, findUnencodable, toEncodable } from '.';

const python = (program: string): string =>
  execFileSync('/usr/bin/python3', ['-c', program], { encoding: 'utf8', maxBuffer: 10_000_000 });

/** Bytes of every character of the first plane in Python's codec, by code point; surrogates and private places left out. */
const bytesIn = (codec: string): ReadonlyMap<number, number> =>
  new Map(
    Object.entries(
      JSON.parse(
        python(`
import json
out = {}
for c in range(0x20, 0x10000):
    if 0xd800 <= c < 0xf900 or 0x7f <= c < 0xa0: continue
    try: b = chr(c).encode("${codec}")
    except UnicodeEncodeError: continue
    # What comes back as another character was only the best fit.
    if b.decode("${codec}") == chr(c): out[c] = len(b)
print(json.dumps(out))`),
      ) as Record<string, number>,
    ).map(([c, n]) => [Number(c), n]),
  );

describe.each([
  ['shift_jis', 'cp932', 7000],
  ['windows-1252', 'cp1252', 200],
] as const)('%s', (encoding, codec, least) => {
  const known = bytesIn(codec);
  it('holds what Python’s codec holds, in as many bytes', () => {
    expect(known.size).toBeGreaterThan(least);
    for (const [c, n] of known) {
      const text = String.fromCodePoint(c);
      expect(findUnencodable(text, encoding), c.toString(16)).toBeUndefined();
      expect(countBytes(text, encoding), c.toString(16)).toBe(n);
    }
  });
  it('holds nothing else', () => {
    let others = 0;
    for (let c = 0x20; c < 0x10000; c++) {
      if ((c >= 0xd800 && c < 0xf900) || (c >= 0x7f && c < 0xa0) || known.has(c)) continue;
      expect(findUnencodable(String.fromCodePoint(c), encoding), c.toString(16)).toBe(String.fromCodePoint(c));
      others++;
    }
    expect(others).toBeGreaterThan(49_000);
    expect(findUnencodable('鍋👍', encoding)).toBe(encoding === 'shift_jis' ? '👍' : '鍋');
  });
});

describe('a text that Shift_JIS cannot hold', () => {
  it.each([
    ['波〜線', '波～線'],
    ['24 − 28', '24 － 28'],
    ['カ\u3099ラス', 'ガラス'],
    ['café', 'café'],
    ['½', '1⁄2'],
  ])('%s is written %s where something looks the same', (text, written) => {
    expect(toEncodable(text, 'shift_jis')).toBe(written);
  });
  it.each([
    ['波～線', undefined],
    ['café', 'é'],
  ])('%s lacks %s', (text, lacks) => {
    expect(findUnencodable(text, 'shift_jis')).toBe(lacks);
  });
});

describe('bytes of a text', () => {
  it.each([
    ['ガラスA', 'shift_jis', 7],
    ['ｶﾞﾗｽA', 'shift_jis', 5],
    ['ガラスA', 'utf-8', 10],
    ['ガラスA', 'utf-16le', 8],
    ['café', 'windows-1252', 4],
  ] as const)('%s in %s are %i', (text, encoding, bytes) => {
    expect(countBytes(text, encoding)).toBe(bytes);
  });
});

// Which kind of file this is and how its text is encoded, from its first bytes.
export const encodings = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252', 'shift_jis'] as const;
export type Encoding = (typeof encodings)[number];
export type FileKind =
  | { kind: 'text'; encoding: Encoding; mark: boolean }
  | { kind: 'workbook' }
  | { kind: 'empty' }
  | { kind: 'binary'; looksLike: string };

const signatures: readonly [string, string][] = [
  ['89504e47', 'a PNG picture'],
  ['ffd8ff', 'a JPEG picture'],
  ['25504446', 'a PDF document'],
  ['d0cf11e0', 'an old binary workbook (save it as .xlsx, .ods or CSV)'],
  ['1f8b', 'a gzip archive'],
  ['377abcaf', 'a 7z archive'],
  ['52617221', 'a RAR archive'],
  ['7f454c46', 'a program'],
  ['47494638', 'a GIF picture'],
];

/** Texts that are no tables, by how they begin. */
const beginnings: readonly [RegExp, string][] = [
  [/^<(?:!doctype html|html|head|body|meta|table|style)\b/i, 'a web page'],
  [/^<\?xml\b|^<[a-z][\w:.-]*[\s>]/i, 'a document of XML'],
  [/^\{\\rtf/, 'a text with layout (RTF)'],
  [/^[[{]\s*[[{"\]}]/, 'a document of JSON'],
];
/** What a text is that begins so, where it is no table. */
function nameText(head: Uint8Array): string | undefined {
  const begin = new TextDecoder('utf-8').decode(head.subarray(0, 400)).trimStart();
  return beginnings.find(([is]) => is.test(begin))?.[1];
}

/**
 * Judges a file by its first bytes (a few kilobytes are enough). A zip is taken for a workbook here; whether it is one
 * shows when it is opened.
 */
export function sniffFile(head: Uint8Array): FileKind {
  if (head.length === 0) return { kind: 'empty' };
  const hex = Array.from(head.subarray(0, 8), (b) => b.toString(16).padStart(2, '0')).join('');
  if (hex.startsWith('504b0304') || hex.startsWith('504b0506')) return { kind: 'workbook' };
  for (const [signature, name] of signatures) if (hex.startsWith(signature)) return { kind: 'binary', looksLike: name };
  const named = nameText(head);
  if (named !== undefined) return { kind: 'binary', looksLike: named };
  if (hex.startsWith('efbbbf')) return { kind: 'text', encoding: 'utf-8', mark: true };
  if (hex.startsWith('fffe')) return { kind: 'text', encoding: 'utf-16le', mark: true };
  if (hex.startsWith('feff')) return { kind: 'text', encoding: 'utf-16be', mark: true };
  const zeros = countZeros(head),
    half = head.length / 2;
  if (zeros.odd > half * 0.4 && zeros.even < half * 0.05) return { kind: 'text', encoding: 'utf-16le', mark: false };
  if (zeros.even > half * 0.4 && zeros.odd < half * 0.05) return { kind: 'text', encoding: 'utf-16be', mark: false };
  // A stray control character spoils its cell, not the file.
  let controls = 0;
  for (const b of head) if (b < 32 && b !== 9 && b !== 10 && b !== 13 && b !== 12) controls++;
  if (controls > 3 + head.length * 0.02) return { kind: 'binary', looksLike: 'a file of bytes, not of text' };
  if (isUtf8(head)) return { kind: 'text', encoding: 'utf-8', mark: false };
  const judge = createEncodingJudge();
  judge.push(head);
  const judged = judge.judge();
  // What is no UTF-8 at its beginning is none.
  return { kind: 'text', encoding: judged === 'utf-8' ? 'windows-1252' : judged, mark: false };
}

function countZeros(head: Uint8Array): { even: number; odd: number } {
  let even = 0,
    odd = 0;
  for (let i = 0; i < head.length; i++)
    if (head[i] === 0) {
      if (i % 2) odd++;
      else even++;
    }
  return { even, odd };
}

/** True if the bytes are UTF-8, a character cut off at the end forgiven. */
export function isUtf8(bytes: Uint8Array): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: true });
    return true;
  } catch {
    return false;
  }
}

/** Encodings that a text without a mark is judged to be in. */
export type JudgedEncoding = 'utf-8' | 'windows-1252' | 'shift_jis';

/** Counts what speaks for UTF-8 (RFC 3629, 4) and what against it, byte by byte. */
function countUtf8() {
  let left = 0,
    kept = 0,
    broken = 0;
  return {
    push: (byte: number): void => {
      if (left > 0) {
        if ((byte & 0xc0) === 0x80) {
          if (--left === 0) kept++;
          return;
        }
        left = 0;
        broken++;
      }
      if (byte < 0x80) return;
      if (byte >= 0xc2 && byte <= 0xdf) left = 1;
      else if (byte >= 0xe0 && byte <= 0xef) left = 2;
      else if (byte >= 0xf0 && byte <= 0xf4) left = 3;
      else broken++;
    },
    isIt: () => broken + (left > 0 ? 1 : 0) <= kept,
  };
}

/** Least share of kana among the pairs of a Japanese text; in a European one read as pairs they are all but missing. */
const leastKana = 0.1;
/** Pairs of Shift_JIS for one byte that is none. */
const mostBroken = 50;

/**
 * Counts pairs of Shift_JIS and the kana among them, without which letters of European texts would pass for Chinese
 * characters. Source: JIS X 0208:1997, appendix 1 (lead bytes, trail bytes; rows 4 and 5 are hiragana and katakana).
 */
function countShiftJis() {
  let lead = 0,
    pairs = 0,
    kana = 0,
    broken = 0;
  return {
    push: (byte: number): void => {
      if (lead > 0) {
        if (byte >= 0x40 && byte <= 0xfc && byte !== 0x7f) {
          pairs++;
          if ((lead === 0x82 && byte >= 0x9f && byte <= 0xf1) || (lead === 0x83 && byte <= 0x96)) kana++;
        } else broken++;
        lead = 0;
      } else if ((byte >= 0x81 && byte <= 0x9f) || (byte >= 0xe0 && byte <= 0xfc)) lead = byte;
      // Half-width katakana stand alone, from 0xa1 to 0xdf.
      else if (byte === 0x80 || byte === 0xa0 || byte > 0xfc) broken++;
    },
    isIt: () => kana > 0 && kana >= pairs * leastKana && broken * mostBroken <= pairs,
  };
}

/**
 * Judges a whole text as it passes by, though its first letter beyond ASCII stands behind millions of others: UTF-8 where
 * more letters keep to it than bytes break it, else Shift_JIS where it reads as Japanese, else Windows-1252.
 */
export function createEncodingJudge(): { push: (chunk: Uint8Array) => void; judge: () => JudgedEncoding } {
  const utf8 = countUtf8(),
    shiftJis = countShiftJis();
  return {
    push: (chunk) => {
      for (const byte of chunk) {
        utf8.push(byte);
        shiftJis.push(byte);
      }
    },
    judge: () => (utf8.isIt() ? 'utf-8' : shiftJis.isIt() ? 'shift_jis' : 'windows-1252'),
  };
}

/** Decodes chunk by chunk; characters that fall on a chunk edge stay whole. */
export function createTextDecoder(encoding: Encoding): { push: (chunk: Uint8Array) => string; end: () => string } {
  const decoder = new TextDecoder(encoding);
  // Always as a stream: Node 20 reads windows-1252 that is given at once as Latin-1, without its quotes and euro sign.
  return { push: (chunk) => decoder.decode(chunk, { stream: true }), end: () => decoder.decode() };
}

/**
 * Letters of UTF-8 read as Windows-1252: Ö is Ã–, É is Ã‰, Å is Ã…. A dash or dots behind an Ã may also be just that where no
 * letter follows, as at the end of AMANHÃ….
 */
const mojibake =
  /Ã[\u0080-\u00bf\u0152-\u0178\u017d\u017e\u0192\u02c6\u02dc\u2018-\u201e\u2020-\u2022\u2030\u2039\u203a\u20ac\u2122]|Ã[\u2013\u2014\u2026](?=\p{L})|â€[\u0080-\u00bf™œ“”]|Â[\u00a0-\u00bf]/u;
const high: Readonly<Record<string, number>> = {
  '€': 0x80,
  '‚': 0x82,
  ƒ: 0x83,
  '„': 0x84,
  '…': 0x85,
  '†': 0x86,
  '‡': 0x87,
  ˆ: 0x88,
  '‰': 0x89,
  Š: 0x8a,
  '‹': 0x8b,
  Œ: 0x8c,
  Ž: 0x8e,
  '‘': 0x91,
  '’': 0x92,
  '“': 0x93,
  '”': 0x94,
  '•': 0x95,
  '–': 0x96,
  '—': 0x97,
  '˜': 0x98,
  '™': 0x99,
  š: 0x9a,
  '›': 0x9b,
  œ: 0x9c,
  ž: 0x9e,
  Ÿ: 0x9f,
};

/** "CafÃ©" brought back to "Café": text that was UTF-8 and was read as Windows-1252. Undefined where it is not that. */
export function repairMojibake(text: string): string | undefined {
  if (!mojibake.test(text)) return undefined;
  const bytes: number[] = [];
  for (const c of text) {
    const code = high[c] ?? c.codePointAt(0)!;
    if (code > 255) return undefined;
    bytes.push(code);
  }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(Uint8Array.from(bytes));
  } catch {
    return undefined;
  }
}

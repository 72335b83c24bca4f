/** Characters as a reader counts them: code points, not UTF-16 units. */
export function countCharacters(text: string): number {
  let n = 0;
  for (let i = 0; i < text.length; i++, n++) if ((text.charCodeAt(i) & 0xfc00) === 0xd800) i++;
  return n;
}

/** Bytes of the text in UTF-8 (RFC 3629). */
export function countUtf8Bytes(text: string): number {
  let n = 0;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c < 0x80) n += 1;
    else if (c < 0x800) n += 2;
    else if ((c & 0xfc00) === 0xd800) {
      n += 4;
      i++;
    } else n += 3;
  }
  return n;
}

/** The text cut at a word to at most `max` characters. */
export function cutAtWord(text: string, max: number): string {
  // Only a text with characters outside the first plane has more units than characters.
  const end = /[\ud800-\udfff]/.test(text) ? [...text].slice(0, max).join('').length : max;
  if (text.length <= end) return text;
  const cut = text.slice(0, end);
  const space = /\s/.test(text[end]!) ? -1 : cut.lastIndexOf(' ');
  return (space > max * 0.6 ? cut.slice(0, space) : cut).replace(/(?<![\s,;:–-])[\s,;:–-]+$/u, '');
}

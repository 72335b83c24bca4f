// A tag begins where a letter follows the sign at once (HTML Living Standard, 13.2.5.6 Tag open state): “a < b > c” is text.
const tag = /<(\/?)([a-zA-Z][a-zA-Z0-9]*)([^>]*)>/g;

/** First tag in a text that is not among the allowed names, or undefined. Attributes are never allowed. */
export function findForbiddenTag(text: string, allowed: readonly string[]): string | undefined {
  if (!text.includes('<')) return undefined;
  for (const m of text.matchAll(tag)) {
    if (!allowed.includes(m[2]!.toLowerCase()) || /[a-z-]+\s*=/i.test(m[3]!)) return m[0];
  }
  return undefined;
}

/** The text without tags other than the allowed ones; those lose their attributes. */
export function stripForbiddenTags(text: string, allowed: readonly string[]): string {
  return text
    .replace(/<\s*(script|style)\b[^>]*>[\s\S]*?<\s*\/\s*\1\s*>/gi, '')
    .replace(tag, (_, close: string, name: string) =>
      allowed.includes(name.toLowerCase()) ? `<${close}${name.toLowerCase()}>` : '',
    );
}

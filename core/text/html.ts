/** First tag in a text that is not among the allowed names, or undefined. Attributes are never allowed. */
export function findForbiddenTag(text: string, allowed: readonly string[]): string | undefined {
  if (!text.includes('<')) return undefined;
  for (const m of text.matchAll(/<\s*\/?\s*([a-zA-Z][a-zA-Z0-9]*)([^>]*)>/g)) {
    if (!allowed.includes(m[1]!.toLowerCase()) || /[a-z-]+\s*=/i.test(m[2]!)) return m[0];
  }
  return undefined;
}

/** The text without tags other than the allowed ones; those lose their attributes. */
export function stripForbiddenTags(text: string, allowed: readonly string[]): string {
  return text
    .replace(/<\s*(script|style)\b[^>]*>[\s\S]*?<\s*\/\s*\1\s*>/gi, '')
    .replace(/<\s*(\/?)\s*([a-zA-Z][a-zA-Z0-9]*)[^>]*>/g, (_, close: string, name: string) =>
      allowed.includes(name.toLowerCase()) ? `<${close}${name.toLowerCase()}>` : '',
    );
}

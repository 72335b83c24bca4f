/** Texts that are remembered at the most. */
export const mostRemembered = 4000;

/**
 * What is made of a text, remembered for the first some thousand different ones: amounts, units and codes of a catalog are few,
 * and each is worked out with exact arithmetic.
 */
export function remember(make: (text: string) => string): (text: string) => string {
  const known = new Map<string, string>();
  return (text) => {
    const found = known.get(text);
    if (found !== undefined) return found;
    const made = make(text);
    if (known.size < mostRemembered) known.set(text, made);
    return made;
  };
}

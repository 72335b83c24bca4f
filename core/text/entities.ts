// Names of signs as markup writes them, in texts that are none.
import { parseFragment } from 'parse5';

const entity = /&(?:[a-z][a-z0-9]{1,30}|#\d{1,7}|#x[0-9a-f]{1,6});/gi;
const known = new Map<string, string>();
/** Names are few; what is made up is not kept for ever. */
const mostKept = 1000;

/** A text with `&amp;`, `&eacute;` and `&#233;` as the signs that they name (HTML Living Standard 13.5); names of none stay. */
export function decodeEntities(text: string): string {
  if (!text.includes('&')) return text;
  return text.replace(entity, (name) => {
    const before = known.get(name);
    if (before !== undefined) return before;
    const node = parseFragment(name).childNodes[0];
    const sign = node && 'value' in node ? node.value : name;
    if (known.size < mostKept) known.set(name, sign);
    return sign;
  });
}

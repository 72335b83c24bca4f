import { textAt } from './judge';
import { escape } from './sheet';
import type { Other } from './others';
import type { Entry } from './shelf';

/** The page that a buyer sees of an entry, in one of the two languages. */
export function writeEntryPage({ cells }: Entry, tongue: string): string {
  const at = (name: string): string => textAt(cells, `words[tongue=${tongue}].${name}`);
  const points = [cells[`words[tongue=${tongue}].point[]`] ?? []].flat();
  return `<!doctype html><html lang="${tongue}" dir="${tongue === 'ar' ? 'rtl' : 'ltr'}"><meta charset="utf-8"><title>${escape(at('name'))}</title>
<body style="font-family:sans-serif;max-width:44rem;margin:2rem auto">
<p>Wadiline</p><h1>${escape(at('name'))}</h1><p>${escape(textAt(cells, 'maker'))}</p>
<p><b>${escape(textAt(cells, 'terms.sale') || textAt(cells, 'terms.price'))} KWD</b></p>
<ul>${points.map((p) => `<li>${escape(p)}</li>`).join('')}</ul>
<p>${escape(at('story'))}</p></body></html>`;
}

/** The page of another seller's entry, with the offer of this one where it has joined. */
export const writeOtherPage = ({ name, maker }: Other, offer: Entry | undefined, tongue: string): string =>
  `<!doctype html><html lang="${tongue}" dir="${tongue === 'ar' ? 'rtl' : 'ltr'}"><meta charset="utf-8"><title>${escape(name)}</title>
<body style="font-family:sans-serif;max-width:44rem;margin:2rem auto">
<p>Wadiline</p><h1>${escape(name)}</h1><p>${escape(maker)}</p>
${offer ? `<p>Also sold by you: <b>${escape(textAt(offer.cells, 'terms.sale') || textAt(offer.cells, 'terms.price'))} KWD</b></p>` : ''}</body></html>`;

/** The seller's desk, with the public keys by which it is known. */
export const writeDesk = (user: string, keys: readonly string[]): string =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><title>Wadiline, the desk of ${escape(user)}</title>
<body style="font-family:sans-serif;max-width:44rem;margin:2rem auto">
<p>Wadiline</p><h1>The desk of ${escape(user)}</h1>
<form method="post"><label for="keys">Public keys that may bring files, one a line</label>
<textarea id="keys" name="keys" rows="5" style="width:100%;font-family:monospace">${escape(keys.join('\n'))}</textarea>
<button>Keep them</button></form></body></html>`;

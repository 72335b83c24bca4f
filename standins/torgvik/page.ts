import type { Good } from './shelf';

const escape = (t: string): string =>
  t.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** The page that a buyer in one country sees of a good, in the language that is spoken there. */
export function writeGoodPage(good: Good, site: string): string {
  const language = site === 'se' ? 'sv' : 'de';
  const c = good.cells;
  const title = escape(c[`titel_${language}`] ?? ''),
    price = c[`reapris_${site}`] || (c[`pris_${site}`] ?? '');
  return `<!doctype html><html lang="${language}"><meta charset="utf-8"><title>${title}</title>
<body style="font-family:sans-serif;max-width:44rem;margin:2rem auto">
<p>Torgvik ${site.toUpperCase()}</p><h1>${title}</h1><p>${escape(c['marke'] ?? '')}</p>
<p><b>${escape(price)} ${site === 'se' ? 'SEK' : 'EUR'}</b> · ${good.quantity > 0 ? (site === 'se' ? 'i lager' : 'auf Lager') : site === 'se' ? 'slut' : 'ausverkauft'}</p>
<ul>${(c[`punkter_${language}`] ?? '')
    .split('|')
    .filter((p) => p !== '')
    .map((p) => `<li>${escape(p)}</li>`)
    .join('')}</ul>
<div>${c[`text_${language}`] ?? ''}</div></body></html>`;
}

import { lookUp, textAt } from './place';
import type { Entry } from './shelf';

const escape = (t: string): string =>
  t.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** The page that a buyer sees of an entry. */
export function writeEntryPage({ record }: Entry): string {
  const name = escape(textAt(record, 'say.name')),
    price = lookUp(record, 'worth.deal.ask') ?? lookUp(record, 'worth.ask'),
    points = lookUp(record, 'say.points');
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>${name}</title>
<body style="font-family:sans-serif;max-width:44rem;margin:2rem auto">
<p>Cedarpost</p><h1>${name}</h1><p>${escape(textAt(record, 'say.maker'))}</p>
<p><b>${typeof price === 'number' ? price.toFixed(2) : ''} USD</b> · ${Number(lookUp(record, 'stock.on_hand') ?? 0) > 0 ? 'ready to ship' : 'gone for now'}</p>
<ul>${(Array.isArray(points) ? points : []).map((p) => `<li>${escape(String(p))}</li>`).join('')}</ul>
<p>${escape(textAt(record, 'say.story'))}</p></body></html>`;
}

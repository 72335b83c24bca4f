import type { BookDocument } from './book';
import type { Entry, Shelf } from './shelf';

const escape = (t: string): string =>
  t.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** The plain page that a buyer sees of an entry. */
export function writeItemPage(entry: Entry, shelf: Shelf, book: BookDocument): string {
  const c = entry.cells;
  const skip = new Set([
    'title',
    'description',
    'highlights',
    'price',
    'sale_price',
    'sale_start',
    'sale_end',
    'quantity',
    'pictures',
  ]);
  const facts = book.attributes
    .filter((a) => c[a.key] && !skip.has(a.key))
    .map((a) => {
      const label = (code: string) =>
        a.codes ? (book.codeLists[a.codes]?.entries.find((e) => e.code === code)?.label ?? code) : code;
      return `<tr><th>${escape(a.label)}</th><td>${escape(c[a.key]!.split('|').map(label).join(', '))} ${escape(c[`${a.key}_unit`] ?? '')}</td></tr>`;
    });
  const members = Object.values(shelf.memory.entries).filter(
    (e) => e.cells['family_sku'] === entry.sku && e.standing === 'on shelf',
  );
  const pictures = Object.keys(c).filter((k) => k.startsWith('picture_') && c[k]).length;
  const stateLine = {
    'on shelf':
      c['family_row'] === 'head'
        ? 'Choose one below.'
        : entry.quantity > 0
          ? `In stock: ${entry.quantity}`
          : 'Sold out',
    'being read': 'Not on the shelf yet: our readers are looking at it.',
    'turned back': entry.reason,
    'taken down': 'No longer sold here.',
  }[entry.standing];
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>${escape(c['title'] ?? '')} · Quillhaven</title>
<style>body{font:16px/1.5 Georgia,serif;max-width:46rem;margin:2rem auto;padding:0 1rem;color:#1d2b33;background:#f4f7f6}h1{font-size:1.6rem}th{text-align:left;padding-right:1.5rem;font-weight:normal;color:#5a6d75;vertical-align:top}.price{font-size:1.4rem}.plate{background:#dfe7e5;padding:3rem;text-align:center;color:#5a6d75}</style>
<p>Quillhaven · entry ${escape(entry.number)}</p><div class="plate">${pictures} ${pictures === 1 ? 'picture' : 'pictures'}</div><h1>${escape(c['title'] ?? '')}</h1>
${c['price'] ? `<p class="price">£${escape(c['sale_price'] || c['price'])}${c['sale_price'] ? ` <s>£${escape(c['price'])}</s>` : ''}</p>` : ''}<p>${escape(stateLine)}</p>
<ul>${(c['highlights'] ?? '')
    .split('|')
    .filter(Boolean)
    .map((h) => `<li>${escape(h)}</li>`)
    .join('')}</ul><div>${(c['description'] ?? '').replace(/<(?!\/?(?:p|br|b|ul|li)>)/g, '&lt;')}</div>
<table>${facts.join('')}</table>${members.length ? `<h2>To choose from</h2><ul>${members.map((m) => `<li><a href="/item/${m.number}">${escape(m.cells['title'] ?? '')}</a></li>`).join('')}</ul>` : ''}</html>`;
}

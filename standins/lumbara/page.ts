import type { Entry } from './shelf';

const escape = (t: string): string =>
  t.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** The page that a buyer sees of an entry, with the items to choose from. */
export function writeEntryPage({ cells, items, divided }: Entry): string {
  const title = escape(cells['呼び名'] ?? '');
  const shown = Object.values(items).filter((i) => i.standing === '1');
  const natures = ['色', '直径', '長さ', '容量', '内容量', '寸法', '配合'];
  return `<!doctype html><html lang="ja"><meta charset="utf-8"><title>${title}</title>
<body style="font-family:sans-serif;max-width:44rem;margin:2rem auto">
<p>Lumbara</p><h1>${title}</h1><p>${escape(cells['銘'] ?? '')}</p>
<table>${shown
    .map((i) => {
      const nature = divided.length > 0 ? natures.map((n) => i.cells[`枝{n}${n}`] ?? '').filter((t) => t !== '') : [];
      return `<tr><td>${escape(nature.join(' '))}</td><td><b>${escape(i.cells['枝{n}安値'] || (i.cells['枝{n}値'] ?? ''))}円</b></td><td>${i.quantity > 0 ? 'あり' : '売切'}</td></tr>`;
    })
    .join('')}</table>
<p>${escape(cells['話'] ?? '').replace(/\n/g, '<br>')}</p></body></html>`;
}

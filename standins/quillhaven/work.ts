// Working through a file line by line, across rows, in the market's own way.
import { indexBy } from '../frame';
import type { BookDocument } from './book';
import { type Cells, createJudge, type Verdict } from './judge';
import { mergeCells, othersOn, type Shelf } from './shelf';

export interface WorkOptions {
  reviewMs: number;
  now: number;
  uncleared: readonly string[];
}
export interface Answer extends Verdict {
  line: number;
  sku: string;
  number: string;
}

const turned = (code: string, field: string): Verdict => ({ verdict: 'TURNED BACK', code, field });
const taken: Verdict = { verdict: 'TAKEN', code: '', field: '' };

/** Judges and takes every line of a file; answers one line each. */
export function workThrough(
  book: BookDocument,
  shelf: Shelf,
  operation: string,
  rows: readonly Cells[],
  options: WorkOptions,
): Answer[] {
  const judge = createJudge(book);
  const priceFields = book.attributes.filter((a) => a.part === 'price').map((a) => a.key),
    stockFields = book.attributes.filter((a) => a.part === 'stock').map((a) => a.key);
  const seen = new Set<string>();
  const families = indexBy(Object.values(shelf.memory.entries), (e) => [e.cells['family_sku'] ?? '']);
  return rows.map((cells, i): Answer => {
    const sku = cells['house_sku'] ?? '';
    const verdict = seen.has(sku) ? turned('Q22', 'house_sku') : takeLine(cells, sku);
    seen.add(sku);
    const entry = shelf.memory.entries[sku];
    if (entry) families.add(entry);
    return {
      ...verdict,
      line: i + 1,
      sku,
      number: verdict.verdict === 'TURNED BACK' ? '' : (entry?.number ?? ''),
    };
  });

  function takeLine(cells: Cells, sku: string): Verdict {
    const wish = operation === 'price' ? 'PRICE' : operation === 'stock' ? 'STOCK' : (cells['line_wish'] ?? '');
    const entry = shelf.memory.entries[sku];
    const stands = entry && entry.standing !== 'turned back' && entry.standing !== 'taken down';
    switch (wish) {
      case 'NEW':
        return takeNew(cells, sku, Boolean(stands));
      case 'WHOLE':
        if (!stands || entry.joins) return turned('Q23', 'house_sku');
        return takeWhole(cells, sku);
      case 'OFFER':
        return takeOffer(cells, sku);
      case 'EDIT': {
        if (!stands || entry.joins) return turned('Q23', 'house_sku');
        const bad = judge.judgeFields(
          cells,
          book.attributes.map((a) => a.key),
        );
        if (bad) return bad;
        const merged = mergeCells(entry.cells, { ...cells, line_wish: '' });
        const whole = judge.judgeEntry(merged, (merged['family_row'] ?? '') as 'head' | 'member' | '');
        if (whole) return whole;
        if (merged['brand'] !== entry.cells['brand'] || merged['item_number'] !== entry.cells['item_number'])
          return turned('Q12', merged['brand'] !== entry.cells['brand'] ? 'brand' : 'item_number');
        entry.cells = merged;
        shelf.touch(entry);
        return remarks(merged);
      }
      case 'PRICE': {
        if (!stands) return turned('Q23', 'house_sku');
        const merged = mergeCells(entry.cells, cells);
        const bad = judge.judgeFields({ ...cells, price: merged['price'] ?? '' }, priceFields);
        if (bad) return bad;
        const before = Number(entry.cells['price'] ?? 0),
          after = Number(merged['price'] ?? 0);
        if (before > 0 && (after > before * 5 || after < before / 5)) return turned('Q51', 'price');
        if (merged['sale_price'] && !merged['sale_start']) return turned('Q50', 'sale_start');
        if (merged['sale_price'] && Number(merged['sale_price']) >= after) return turned('Q50', 'sale_price');
        entry.cells = merged;
        shelf.touch(entry);
        return taken;
      }
      case 'STOCK': {
        if (!stands) return turned('Q23', 'house_sku');
        const bad = judge.judgeFields(cells, stockFields);
        if (bad) return bad;
        entry.cells = mergeCells(entry.cells, cells);
        const asked = Number(entry.cells['quantity'] ?? 0);
        entry.quantity = Math.min(asked, book.offer.quantityCap);
        shelf.touch(entry);
        return asked > book.offer.quantityCap ? { verdict: 'NOTED', code: 'N03', field: 'quantity' } : taken;
      }
      case 'DOWN':
        if (!stands) return turned('Q23', 'house_sku');
        entry.standing = 'taken down';
        shelf.memory.burnt.push(sku);
        shelf.touch(entry);
        return taken;
      case 'BACK':
        return turned('Q24', 'house_sku');
      default:
        return turned('Q12', 'line_wish');
    }
  }

  function takeNew(cells: Cells, sku: string, stands: boolean): Verdict {
    if (stands) return turned('Q22', 'house_sku');
    if (shelf.memory.burnt.includes(sku)) return turned('Q24', 'house_sku');
    if (!/^[A-Za-z0-9._/-]{3,30}$/.test(sku)) return turned('Q12', 'house_sku');
    return takeWhole(cells, sku);
  }

  /** Terms of this seller on another's entry of the same item; nobody has to read what stands there. */
  function takeOffer(cells: Cells, sku: string): Verdict {
    const before = shelf.memory.entries[sku];
    if (shelf.memory.burnt.includes(sku)) return turned('Q24', 'house_sku');
    if (before && before.standing !== 'turned back' && !before.joins) return turned('Q22', 'house_sku');
    const there = othersOn(shelf).find((o) => o.number === cells['entry']);
    if (!there) return turned('Q25', 'entry');
    if ((cells['item_number'] ?? '').padStart(14, '0') !== there.itemNumber.padStart(14, '0'))
      return turned('Q25', 'item_number');
    const after = before ? mergeCells(before.cells, { ...cells, line_wish: '', entry: '' }) : { ...cells };
    const empty = ['condition', 'price', 'quantity', 'handling_days'].find((k) => !after[k]);
    if (empty !== undefined) return turned('Q10', empty);
    const bad = judge.judgeFields(after, ['condition', ...priceFields, ...stockFields]);
    if (bad) return bad;
    shelf.memory.entries[sku] = {
      sku,
      number: there.number,
      standing: 'on shelf',
      reason: '',
      cells: { ...after, title: there.title, brand: there.brand },
      readyAt: 0,
      stamp: 0,
      quantity: Math.min(Number(after['quantity'] || 0), book.offer.quantityCap),
      sold: before?.sold ?? 0,
      joins: true,
    };
    shelf.touch(shelf.memory.entries[sku]);
    return taken;
  }

  function takeWhole(cells: Cells, sku: string): Verdict {
    const kind = (cells['family_row'] ?? '') as 'head' | 'member' | '';
    const bad = judge.judgeEntry(cells, kind);
    if (bad) return bad;
    if (options.uncleared.includes(cells['brand'] ?? '')) return turned('Q41', 'brand');
    const other = cells['item_number'] ? shelf.findByItemNumber(cells['item_number']) : undefined;
    const isOthers = othersOn(shelf).some(
      (o) => o.itemNumber.padStart(14, '0') === (cells['item_number'] ?? '').padStart(14, '0'),
    );
    if (isOthers || (other && other.sku !== sku)) return turned('Q21', 'item_number');
    const family = judgeFamily(cells, sku, kind);
    if (family) return family;
    const number = shelf.memory.entries[sku]?.number ?? `Q${shelf.memory.nextNumber++}`;
    shelf.memory.entries[sku] = {
      sku,
      number,
      standing: 'being read',
      reason: '',
      cells: { ...cells },
      readyAt: options.now + options.reviewMs,
      stamp: 0,
      quantity: Math.min(Number(cells['quantity'] || 0), book.offer.quantityCap),
      sold: 0,
    };
    shelf.touch(shelf.memory.entries[sku]);
    return remarks(cells);
  }

  function judgeFamily(cells: Cells, sku: string, kind: string): Verdict | undefined {
    const axes = (cells['divided_by'] ?? '').split('|').filter(Boolean);
    const allowed = book.tree.find((n) => n.key === cells['shelf'])?.axes ?? [];
    if (kind === '') return cells['family_sku'] ? turned('Q30', 'family_sku') : undefined;
    if (axes.length === 0 || axes.length > 2 || axes.some((a) => !allowed.includes(a)))
      return turned('Q30', 'divided_by');
    if (kind === 'head') return undefined;
    const head = shelf.memory.entries[cells['family_sku'] ?? ''];
    if (
      head?.cells['family_row'] !== 'head' ||
      head.cells['shelf'] !== cells['shelf'] ||
      head.cells['divided_by'] !== cells['divided_by']
    )
      return turned('Q30', 'family_sku');
    const signature = (c: Cells) => axes.map((a) => `${c[a] ?? ''} ${c[`${a}_unit`] ?? ''}`).join('|');
    if (axes.some((a) => !cells[a]))
      return turned(
        'Q30',
        axes.find((a) => !cells[a])!,
      );
    const twin = families.among(cells['family_sku'] ?? '').find(
      (e) =>
        e.sku !== sku &&
        // One that another took the place of stands no more.
        shelf.memory.entries[e.sku] === e &&
        e.cells['family_sku'] === cells['family_sku'] &&
        e.standing !== 'taken down' &&
        e.standing !== 'turned back' &&
        signature(e.cells) === signature(cells),
    );
    return twin ? turned('Q31', axes[0]!) : undefined;
  }

  function remarks(cells: Cells): Verdict {
    const pictures = Object.keys(cells).filter((k) => k.startsWith('picture_') && cells[k]).length;
    if (pictures < book.pictures.advised) return { verdict: 'NOTED', code: 'N01', field: 'picture_1' };
    return (cells['title'] ?? '').length > 110 ? { verdict: 'NOTED', code: 'N02', field: 'title' } : taken;
  }
}

/** Entries whose review is over go on the shelf, or back where a reader finds fault with them. */
export function endReviews(shelf: Shelf, now: number): number {
  let ended = 0;
  for (const e of Object.values(shelf.memory.entries)) {
    if (e.standing !== 'being read' || e.readyAt > now) continue;
    const isDoubtful = /\b(replica|imitation)\b/i.test(`${e.cells['title'] ?? ''} ${e.cells['description'] ?? ''}`);
    e.standing = isDoubtful ? 'turned back' : 'on shelf';
    e.reason = isDoubtful ? 'The reader doubts that this is what it says it is.' : '';
    shelf.touch(e);
    ended++;
  }
  return ended;
}

/** The market sells a few pieces meanwhile. */
export function sellSome(shelf: Shelf, random: () => number): number {
  const sellable = Object.values(shelf.memory.entries).filter((e) => e.standing === 'on shelf' && e.quantity > 0);
  const buyers = Math.min(sellable.length, 2);
  for (let i = 0; i < buyers; i++) {
    const e = sellable[Math.floor(random() * sellable.length)]!;
    if (e.quantity > 0) {
      e.quantity--;
      e.sold++;
    }
  }
  return buyers;
}

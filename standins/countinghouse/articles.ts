// What the business system holds: articles with their variants, each in its units, with codes, cost, stock and a long text.
import { openMemory } from '../frame';

export interface Article {
  article: string;
  variant: string;
  /** What one of it is: a piece, a box of several. */
  unit: string;
  barcode: string;
  name: string;
  group: string;
  /** Amounts with four places, as the ledger keeps them. */
  cost: string;
  list_price: string;
  on_hand: number;
  blocked: boolean;
  /** The long text, with the markup of whoever wrote it. */
  long_text: string;
  /** When any of this was changed last, ISO 8601. */
  changed: string;
}
export interface Ledger {
  memory: { articles: Article[] };
  /** Writes what has moved: at once where that is quick, else every half a minute at the most. */
  save: () => void;
  saveNow: () => void;
}

/** So many articles are written whole in no time. */
const quickToSave = 20_000,
  betweenMs = 30_000;

export function openLedger(file: string | undefined): Ledger {
  const { memory, save } = openMemory(file, () => ({ articles: [] as Article[] }));
  let savedAt = 0;
  const saveNow = (): void => {
    savedAt = Date.now();
    save();
  };
  return {
    memory,
    save: () => {
      if (memory.articles.length <= quickToSave || Date.now() > savedAt + betweenMs) saveNow();
    },
    saveNow,
  };
}

/** Customers elsewhere buy, and now and then a supplier costs more. Answers how many articles changed. */
export function moveSome({ memory }: Ledger, random: () => number, now: Date): number {
  const { articles } = memory;
  if (articles.length === 0) return 0;
  const changed = now.toISOString();
  let moved = 0;
  for (let i = 0; i < 3; i++) {
    const a = articles[Math.floor(random() * articles.length)]!;
    if (a.on_hand > 0) {
      a.on_hand -= 1;
      a.changed = changed;
      moved++;
    }
  }
  if (random() < 0.2) {
    const a = articles[Math.floor(random() * articles.length)]!;
    a.cost = (Number(a.cost) * 1.02).toFixed(4);
    a.changed = changed;
    moved++;
  }
  return moved;
}

// Counts as stock lists of suppliers have them: with a word for pieces, as so many or more, or as a word that nothing is left.
// The words are common practice, from memory of everyday lists in the languages that files of the trade often come in.

const pieces: ReadonlySet<string> = new Set(
  `pc pcs pce piece pieces ea each unit units item items stk stck stück stücke st styck exemplar ex pièce pièces pzs pza pezzo
  pezzi pz ud uds unidad unidades stuk stuks szt ks kpl adet 個 点 枚 本 台 件 قطعة قطع وحدة`.split(/\s+/),
);
const orMore =
    /^(?:>=?|=>|≥|over|above|more than|at least|min\.?|mind\.|mindestens|über|ueber|mehr als|ab|minst|över|fler än|mer än|plus de|au moins|más de|oltre|più di|meer dan|minstens)(?=[\s\d])\s*(.+)$/u,
  andMore =
    /^(.+?)\s*(?:\+{1,2}|以上|or more|and more|oder mehr|und mehr|eller fler|eller mer|ou plus|o más|o più|of meer|أو أكثر)$/u;
const noneLeft: ReadonlySet<string> = new Set(
  `sold out|out of stock|no stock|not in stock|nil|none|none left|not available|unavailable
  |ausverkauft|nicht lieferbar|nicht vorrätig|nicht auf lager|nicht verfügbar|vergriffen|kein bestand|keine
  |slut|slutsåld|slut i lager|ej i lager|inte i lager|utgången
  |rupture|rupture de stock|en rupture|épuisé|indisponible|agotado|sin stock|sin existencias|no disponible
  |esaurito|non disponibile|uitverkocht|niet op voorraad|niet leverbaar
  |在庫なし|在庫無し|在庫切れ|欠品|品切れ|売り切れ|完売|نفد|نفدت الكمية|غير متوفر`
    .split('|')
    .map((w) => w.trim()),
);

/** A count that is more than its figures: what was meant, and what is left to be read as a number. */
export type CountCell = { kind: 'counted' | 'at-least'; figures: string } | { kind: 'none-left'; figures: '0' };

/** Reads a count with words; undefined where a cell is none. */
export function readCountCell(cell: string): CountCell | undefined {
  const text = cell.normalize('NFKC').toLowerCase().trim();
  if (text.length > 40) return undefined;
  if (noneLeft.has(text.replace(/[.!]+$/, ''))) return { kind: 'none-left', figures: '0' };
  const more = dropPieces(text),
    figures = (orMore.exec(more) ?? andMore.exec(more))?.[1];
  if (figures !== undefined) {
    const rest = dropPieces(figures);
    return isFigures(rest) ? { kind: 'at-least', figures: rest } : undefined;
  }
  return more !== text && isFigures(more) ? { kind: 'counted', figures: more } : undefined;
}

/** "12 pcs." without its word. */
function dropPieces(text: string): string {
  const [, rest, word] = /^(.*?)\s*([^\s\d.,+]+)\.?$/u.exec(text) ?? [];
  return rest !== undefined && word !== undefined && pieces.has(word) ? rest : text;
}
const isFigures = (text: string): boolean => /^\d[\d.,'’ ]*$/.test(text);

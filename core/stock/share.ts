// Stock that is shared out among markets, so that the same piece is not offered twice.

/**
 * So many pieces shared out by weight, a part for each weight in its order; together they are all pieces. One after the other goes
 * to whom it is due most, the heavier and then the earlier first where it is due to several (the divisor method of Sainte-Laguë,
 * Balinski and Young, Fair Representation, 1982): so a part never falls while the whole rises, and the last piece stands somewhere.
 * Weights are whole and over nought.
 */
export function shareOut(pieces: number, weights: readonly number[]): number[] {
  const sum = weights.reduce((n, w) => n + w, 0);
  if (pieces <= 0 || sum === 0) return weights.map(() => 0);
  // No part is further from its share than there are parts; what is left goes piece by piece.
  const parts = weights.map((w) => Math.max(0, Math.floor((pieces * w) / sum) - weights.length));
  for (let left = pieces - parts.reduce((n, p) => n + p, 0); left > 0; left--) {
    let next = 0;
    for (let i = 1; i < parts.length; i++) {
      const due = weights[i]! * (2 * parts[next]! + 1) - weights[next]! * (2 * parts[i]! + 1);
      if (due > 0 || (due === 0 && weights[i]! > weights[next]!)) next = i;
    }
    parts[next] = parts[next]! + 1;
  }
  return parts;
}

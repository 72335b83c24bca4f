// Reading a cell as a barcode: what a spreadsheet did to it is mended where that is proven.
import { parseGtin, parseIsbn } from '../identifiers';
import type { Value } from '../listing/values';
import { findIdentifierDamage, findScientificOriginal } from './damage';
import type { Problem } from './problem';
import type { HeldProduct, ImportReading } from './read-row';

/** The number of a cell as it is kept; undefined where it is refused, which `problems` says. */
export function readIdentifier(
  cell: string,
  field: string,
  reading: ImportReading,
  held: HeldProduct | undefined,
  problems: Problem[],
): Value | undefined {
  const damage = findIdentifierDamage(cell);
  if (damage) {
    const own = held?.[field];
    const mended =
      'mended' in damage
        ? damage.mended
        : damage.kind === 'scientific' && typeof own === 'string'
          ? findScientificOriginal(damage, [own])
          : undefined;
    problems.push({
      field,
      value: cell,
      kind: 'damage',
      fact: {
        is: 'damaged',
        damage,
        ...(mended !== undefined && damage.kind === 'scientific' ? { held: mended } : {}),
      },
      level: mended && reading.acceptMended ? 'caution' : 'blocker',
      ...(mended === undefined ? {} : { mended }),
    });
    return reading.acceptMended ? mended : undefined;
  }
  // Its kind may stand before it, and its figures may be as wide as Japanese letters.
  const written = cell
    .normalize('NFKC')
    .replace(/^(?:e\.?a\.?n|g\.?t\.?i\.?n|u\.?p\.?c|isbn)\b[-\s.:#]*(?:8|12|13|14)?[\s.:#]+/i, '');
  const digits = written.replace(/[\s-]/g, '');
  if (parseIsbn(written).ok || parseGtin(digits).ok) return digits.toUpperCase();
  const read = parseGtin(digits);
  problems.push({
    field,
    value: cell,
    kind: 'not-read',
    fact:
      !read.ok && read.reason === 'wrong-check-digit'
        ? { is: 'wrong-check-digit', proposal: read.proposal }
        : { is: 'not-a-barcode' },
    level: 'caution',
  });
  return cell;
}

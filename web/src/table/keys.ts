// What a key means in the table. Pure; the habits are those of spreadsheets (common practice).

export interface KeyPress {
  key: string;
  /** Whether columns follow one another from the right to the left, as the page is read. */
  isMirrored?: boolean;
  isCtrl: boolean;
  isShift: boolean;
  isAlt: boolean;
}
export type KeyCommand =
  | { do: 'move'; key: string; isExtending: boolean; isFar: boolean }
  | { do: 'step'; key: 'ArrowLeft' | 'ArrowRight' }
  | { do: 'select-all' | 'fill-down' | 'undo' | 'redo' | 'clear' | 'open' | 'edit' | 'menu' | 'bulk' | 'replace' }
  | { do: 'type'; text: string };

const mirrored: Readonly<Record<string, string>> = { ArrowLeft: 'ArrowRight', ArrowRight: 'ArrowLeft' };
const moving = new Set(['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Home', 'End', 'PageUp', 'PageDown']);

/** The command of a key press, or undefined where the key is not the table's. */
export function toCommand({ key, isMirrored, isCtrl, isShift, isAlt }: KeyPress): KeyCommand | undefined {
  if (isAlt) return key === 'ArrowDown' && !isCtrl ? { do: 'menu' } : undefined;
  if (moving.has(key))
    return { do: 'move', key: (isMirrored && mirrored[key]) || key, isExtending: isShift, isFar: isCtrl };
  if (isCtrl) {
    switch (key.toLowerCase()) {
      case 'a':
        return { do: 'select-all' };
      case 'd':
        return { do: 'fill-down' };
      case 'z':
        return { do: isShift ? 'redo' : 'undo' };
      case 'y':
        return { do: 'redo' };
      case 'enter':
        return { do: 'open' };
      case 'b':
        return { do: 'bulk' };
      case 'h':
        return { do: 'replace' };
      default:
        return undefined;
    }
  }
  switch (key) {
    case 'Tab':
      return { do: 'step', key: isShift ? 'ArrowLeft' : 'ArrowRight' };
    case 'Delete':
    case 'Backspace':
      return { do: 'clear' };
    case 'Enter':
    case 'F2':
      return { do: 'edit' };
    case '?':
      return undefined;
    default:
      return key.length === 1 ? { do: 'type', text: key } : undefined;
  }
}

import { describe, expect, it } from 'vitest';
import { toCommand } from './keys';

const press = (keys: string) => {
  const parts = keys.split('+');
  const has = (name: string) => parts.slice(0, -1).includes(name);
  return toCommand({ key: parts.at(-1)!, isCtrl: has('Ctrl'), isShift: has('Shift'), isAlt: has('Alt') });
};

describe('keys of the table', () => {
  it.each([
    ['ArrowDown', { do: 'move', key: 'ArrowDown', isExtending: false, isFar: false }],
    ['Shift+PageDown', { do: 'move', key: 'PageDown', isExtending: true, isFar: false }],
    ['Ctrl+Shift+End', { do: 'move', key: 'End', isExtending: true, isFar: true }],
    ['Tab', { do: 'step', key: 'ArrowRight' }],
    ['Shift+Tab', { do: 'step', key: 'ArrowLeft' }],
    ['Ctrl+a', { do: 'select-all' }],
    ['Ctrl+d', { do: 'fill-down' }],
    ['Ctrl+z', { do: 'undo' }],
    ['Ctrl+Enter', { do: 'open' }],
    ['Delete', { do: 'clear' }],
    ['Backspace', { do: 'clear' }],
    ['Enter', { do: 'edit' }],
    ['F2', { do: 'edit' }],
    ['x', { do: 'type', text: 'x' }],
    ['é', { do: 'type', text: 'é' }],
    ['Shift+X', { do: 'type', text: 'X' }],
  ])('%s', (keys, command) => {
    expect(press(keys)).toEqual(command);
  });
  it.each(['Alt+3', 'Alt+ArrowLeft', 'Ctrl+k', 'Ctrl+c', 'Ctrl+v', '?', 'Escape', 'Shift', 'F5'])(
    '%s is left to others',
    (keys) => {
      expect(press(keys)).toBeUndefined();
    },
  );
});
describe('keys of a table that runs from right to left', () => {
  const move = (key: string) => toCommand({ key, isMirrored: true, isCtrl: false, isShift: true, isAlt: false });
  it.each([
    ['ArrowLeft', 'ArrowRight'],
    ['ArrowRight', 'ArrowLeft'],
    ['ArrowUp', 'ArrowUp'],
    ['Home', 'Home'],
  ])('%s goes on as %s', (key, as) => {
    expect(move(key)).toEqual({ do: 'move', key: as, isExtending: true, isFar: false });
  });
  it('Tab goes on as it always does', () => {
    expect(toCommand({ key: 'Tab', isMirrored: true, isCtrl: false, isShift: false, isAlt: false })).toEqual({
      do: 'step',
      key: 'ArrowRight',
    });
  });
});

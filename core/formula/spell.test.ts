import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { compileFormula, spellFields } from '.';

const fields = compileFields(firstFields);
const spell = (text: string, nameOf: (key: string) => string): string => {
  const made = compileFormula(text, fields);
  if (!made.ok) throw new Error(JSON.stringify(made.fault));
  return spellFields(text, made.formula, nameOf);
};

describe('a formula with its fields under other names', () => {
  it('is the same but for them, wherever they stand, and back again', () => {
    const text = 'if([Title] = "[Title]", [brand], upper([Brand]) & " x ") & "!"';
    const byKey = spell(text, (key) => key);
    expect(byKey).toBe('if([title] = "[Title]", [brand], upper([brand]) & " x ") & "!"');
    expect(spell(byKey, (key) => fields.labelOf(key))).toBe(
      'if([Title] = "[Title]", [Brand], upper([Brand]) & " x ") & "!"',
    );
    expect(spell('[Brand]', (key) => key)).toBe('[brand]');
    expect(spell('1 + 2', (key) => key)).toBe('1 + 2');
  });
  it('doubles the bracket of a name that has one', () => {
    expect(spell('[Brand] & ""', () => 'a]b')).toBe('[a]]b] & ""');
  });
});

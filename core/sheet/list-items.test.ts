// Entries of lists in one cell: a pipe, an asterisk, a semicolon or a comma (common practice), lines, links.
import { describe, expect, it } from 'vitest';
import { guessListSeparator, splitList } from '.';

describe('the entries of a cell', () => {
  it.each([
    ['Even base|Stacks', '|', ['Even base', 'Stacks']],
    ['Even base; Stacks;', ';', ['Even base', 'Stacks']],
    ['Even base|Stacks', ';', ['Even base|Stacks']],
    ['Even base\nStacks\r\n\nOven safe', '|', ['Even base', 'Stacks', 'Oven safe']],
    ['• Even base\n• Stacks', '|', ['Even base', 'Stacks']],
    ['- Even base\n- Stacks, well', '|', ['Even base', 'Stacks, well']],
    ['-5 °C | * | 18/10 steel', '|', ['-5 °C', '*', '18/10 steel']],
    ['', '|', []],
  ])('of “%s” by “%s” are %j', (cell, separator, entries) => {
    expect(splitList(cell, separator)).toEqual(entries);
  });
  it.each([
    'https://p.example/a.jpg|https://p.example/b,c.jpg',
    'https://p.example/a.jpg;https://p.example/b,c.jpg',
    'https://p.example/a.jpg, https://p.example/b,c.jpg',
    'https://p.example/a.jpg https://p.example/b,c.jpg',
    ' https://p.example/a.jpg\nhttps://p.example/b,c.jpg\n',
    'https://p.example/a.jpg,https://p.example/b,c.jpg',
    'https://p.example/a.jpg; https://p.example/b,c.jpg; ',
  ])('are links, whatever stands between them: %j', (cell) => {
    expect(splitList(cell, '|')).toEqual(['https://p.example/a.jpg', 'https://p.example/b,c.jpg']);
  });
});

describe('what divides the lists of a file', () => {
  it.each([
    ['|', ['Even base|Stacks; well', 'Oven safe; yes', 'One; two']],
    [';', ['Even base; Stacks', 'Oven safe', 'One; two']],
    ['*', ['Gluten*Milk', 'Eggs']],
    [',', ['Gluten, milk', 'Eggs, soya', 'Nuts']],
    // Texts with commas are no lists by them, and one semicolon among many cells is part of a text.
    ['|', ['Soft, warm and made to last for years', 'Even, flat base']],
    ['|', ['Even base', 'Stacks; well', 'Oven safe', 'One']],
    ['|', ['Salt &amp; pepper', 'Oil &amp; vinegar']],
    ['|', ['https://p.example/a;b.jpg', 'One;\nTwo;']],
    ['|', []],
  ])('is %s in %j', (sign, cells) => {
    expect(guessListSeparator(cells)).toBe(sign);
  });
});

import { describe, expect, it } from 'vitest';
import { toPlainText } from '.';

describe('a marked-up text as plain lines', () => {
  it.each([
    ['<p>One.</p><p>Two.</p>', 'One.\nTwo.'],
    ['One<br>two', 'One\ntwo'],
    ['<ul><li>Flat</li><li>Even <b>heat</b></li></ul>', 'Flat\nEven heat'],
    ['<p>Salt &amp; pepper, 5 &lt; 6</p>', 'Salt & pepper, 5 < 6'],
    ['  <p>  Wide   of   spaces </p> ', 'Wide of spaces'],
    ['<b>28</b> cm', '28 cm'],
  ])('%s reads %j', (marked, plain) => {
    expect(toPlainText(marked)).toBe(plain);
  });
  it.each([
    'No markup at all',
    '5 < 6 and 7 > 6',
    '<p style="color:red">Red</p>',
    '<script>steal()</script>',
    '<a href="https://x.example">here</a>',
  ])('leaves “%s” for a person, or as it is', (text) => {
    expect(toPlainText(text)).toBeUndefined();
  });
});

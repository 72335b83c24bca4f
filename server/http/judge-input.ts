// What no request may carry, whatever its endpoint: text that PostgreSQL or a file cannot hold, and nesting without end.
import { isWhole, say } from '@basileus/core/text';
import { AppError } from './errors';

const deepest = 64;

const hasBrokenText = (text: string): 'zero' | 'half' | undefined =>
  text.includes('\u0000') ? 'zero' : isWhole(text) ? undefined : 'half';

/** Walks a parsed request. Throws `bad-input` that names the field. Does not recurse, so that depth cannot end the server. */
export function judgeInput(input: unknown): void {
  // A request may hold hundreds of thousands of texts, and nearly all requests are good: places are only worked out for bad ones.
  if (isGood(input)) return;
  const open: { value: unknown; path: string; depth: number }[] = [{ value: input, path: '', depth: 0 }];
  for (let at = open.pop(); at; at = open.pop()) {
    const { value, path, depth } = at;
    if (typeof value === 'string') {
      judgeText(value, path);
    } else if (typeof value === 'object' && value !== null) {
      if (depth === deepest)
        throw new AppError('bad-input', say`${path.slice(0, 60)}… is nested more than ${deepest} levels deep.`, {
          field: path.slice(0, 60),
          remedy: say`Write it flatter.`,
        });
      for (const [key, inner] of Object.entries(value)) {
        const inside = path === '' ? key : `${path}.${key}`;
        judgeText(key, path);
        open.push({ value: inner, path: inside.slice(0, 300), depth: depth + 1 });
      }
    }
  }
}

function isGood(input: unknown): boolean {
  let level: unknown[] = [input];
  for (let depth = 0; level.length > 0; depth++) {
    const below: unknown[] = [];
    for (const value of level) {
      if (typeof value === 'string') {
        if (hasBrokenText(value)) return false;
      } else if (Array.isArray(value)) for (const inner of value) below.push(inner);
      else if (typeof value === 'object' && value !== null)
        for (const key of Object.keys(value)) {
          if (hasBrokenText(key)) return false;
          below.push((value as Record<string, unknown>)[key]);
        }
    }
    if (depth >= deepest && below.length > 0) return false;
    level = below;
  }
  return true;
}

function judgeText(text: string, path: string): void {
  const fault = hasBrokenText(text);
  if (fault)
    throw new AppError(
      'bad-input',
      fault === 'zero'
        ? say`${path || say`The request`} holds a zero character, which no text may.`
        : say`${path || say`The request`} holds half of a character (a lone surrogate).`,
      { field: path || null, remedy: say`Take it out and try again.` },
    );
}

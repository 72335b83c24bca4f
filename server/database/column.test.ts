import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { parseColumn } from '.';

const schema = z.object({ buffer: z.int().default(0) });

describe('a column of JSON', () => {
  it('is what its schema makes of it', () => {
    expect(parseColumn('markets.settings', schema, {})).toEqual({ buffer: 0 });
  });
  it('that holds something else is named with its place', () => {
    expect(() => parseColumn('markets.settings', schema, { buffer: 'two' })).toThrow(
      /^markets\.settings in the database is not what it should be: buffer \S/,
    );
  });
});

import type { z } from 'zod';

/**
 * A jsonb column as its schema says. The database takes any JSON there, so that what an earlier version or another hand has
 * left is found where it is read, with its column and place, and not where it is used. Rows that are read by the hundred
 * thousand (values of listings, facts of products) are not: they are written by one place each, which is typed.
 */
export function parseColumn<T>(column: string, schema: z.ZodType<T>, value: unknown): T {
  const reading = schema.safeParse(value);
  if (reading.success) return reading.data;
  const [issue] = reading.error.issues;
  throw new Error(
    `${column} in the database is not what it should be: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}`,
  );
}

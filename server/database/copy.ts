// Many rows into a table by COPY, which takes them several times as fast as a statement that carries them.
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Knex } from 'knex';
import type pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';

/** A value as COPY takes it: null, a number, a text, or JSON. PostgreSQL has no text with a NUL in it; it is left out. */
export type CopyValue = string | number | boolean | null;

const escapes: Readonly<Record<string, string>> = { '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r', '\0': '' };

/** One line of COPY's text format. */
export const toCopyLine = (row: readonly CopyValue[]): string =>
  row
    .map((v) =>
      v === null ? '\\N' : typeof v === 'string' ? v.replace(/[\\\t\n\r\0]/g, (c) => escapes[c]!) : String(v),
    )
    .join('\t') + '\n';

/** A NUL as JSON writes it: an escape, which stands behind an even number of other backslashes. */
const escapedNul = /(?<!\\)((?:\\\\)*)\\u0000/g;

/** Facts as COPY takes them into a jsonb column, which takes no NUL. */
export function toJson(facts: unknown): string {
  const json = JSON.stringify(facts);
  return json.includes('\\u0000') ? json.replace(escapedNul, '$1') : json;
}

const bytesAtOnce = 64_000;

function* toChunks(rows: Iterable<readonly CopyValue[]>): Generator<string> {
  let chunk = '';
  for (const row of rows) {
    chunk += toCopyLine(row);
    if (chunk.length < bytesAtOnce) continue;
    yield chunk;
    chunk = '';
  }
  if (chunk !== '') yield chunk;
}

/** Writes rows into `target`, a table with its columns: `findings (listing_id, level)`. In the transaction of `tx`. */
export async function copyInto(tx: Knex, target: string, rows: Iterable<readonly CopyValue[]>): Promise<void> {
  const client = tx.client as {
    acquireConnection: () => Promise<pg.Client>;
    releaseConnection: (c: pg.Client) => unknown;
  };
  const connection = await client.acquireConnection();
  try {
    await pipeline(Readable.from(toChunks(rows)), connection.query(copyFrom(`copy ${target} from stdin`)));
  } finally {
    await client.releaseConnection(connection);
  }
}

// Files live in the database in chunks, so that any server on any machine can read and write them as streams.
import { type Db, rowOf, rowsOf } from '../database';
import { AppError } from '../http';
import { say } from '@basileus/core/text';

export { deflatePiece } from './deflate';

const chunkBytes = 1 << 20;

/** Stores a stream of bytes. Past `most` bytes it is refused and nothing stays behind. */
export async function storeFile(
  db: Db,
  name: string,
  bytes: AsyncIterable<Uint8Array>,
  most = Infinity,
): Promise<{ id: number; size: number }> {
  const file = (await rowOf<{ id: number }>(db, 'insert into files (name) values (?) returning id', [name]))!;
  let size = 0,
    seq = 0,
    held: Buffer[] = [],
    heldBytes = 0;
  const flush = async () => {
    if (heldBytes === 0) return;
    await db.raw('insert into file_chunks (file_id, seq, bytes) values (?, ?, ?)', [
      file.id,
      seq++,
      Buffer.concat(held),
    ]);
    held = [];
    heldBytes = 0;
  };
  try {
    for await (const chunk of bytes) {
      size += chunk.length;
      if (size > most)
        throw new AppError(
          'too-large',
          say`The file “${name}” is larger than ${Math.round(most / 1_000_000)} MB, which is the most that is taken at once.`,
          { field: 'file', remedy: say`Split it into several files, or leave out columns that are not needed.` },
        );
      // Whoever hands over much at once has it cut: a look at the beginning of a file reads no more than that.
      for (let from = 0; from < chunk.length; from += chunkBytes) {
        const piece = chunk.subarray(from, from + chunkBytes);
        held.push(Buffer.from(piece));
        heldBytes += piece.length;
        if (heldBytes >= chunkBytes) await flush();
      }
    }
    await flush();
    await db.raw('update files set size = ? where id = ?', [size, file.id]);
    return { id: file.id, size };
  } catch (error) {
    await db.raw('delete from files where id = ?', [file.id]);
    throw error;
  }
}

/** A file's bytes from the beginning, each time it is called. */
export const openFile = (db: Db, fileId: number) =>
  async function* (): AsyncGenerator<Uint8Array> {
    for (let seq = 0; ; seq++) {
      const row = await rowOf<{ bytes: Buffer }>(db, 'select bytes from file_chunks where file_id = ? and seq = ?', [
        fileId,
        seq,
      ]);
      if (!row) return;
      yield row.bytes;
    }
  };

/** All bytes of a file at once; for one that is bounded. */
export async function readWhole(db: Db, fileId: number): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of openFile(db, fileId)()) chunks.push(chunk);
  return Buffer.concat(chunks);
}

export const dropFile = async (db: Db, fileId: number): Promise<void> => {
  await rowsOf(db, 'delete from files where id = ? returning id', [fileId]);
};

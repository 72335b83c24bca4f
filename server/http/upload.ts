import busboy from 'busboy';
import type { Request, Response } from 'express';
import { dropBroken, takeCharacters, say } from '@basileus/core/text';
import type { Readable } from 'node:stream';
import { AppError } from './errors';

/** What is read on after a refusal, so that the browser still hears the answer, before the line is cut. */
const mostSwallowed = 20_000_000;

/** Reads on without keeping anything: a browser that is cut off while it still sends never sees why. */
function swallowRest(request: Request): void {
  let bytes = 0;
  request.on('data', (chunk: Buffer) => {
    bytes += chunk.length;
    if (bytes > mostSwallowed) request.destroy();
  });
  request.resume();
}

const tooLarge = (bytes: number, most: number): AppError =>
  new AppError(
    'too-large',
    say`The file has ${Math.round(bytes / 1_000_000)} MB; ${Math.round(most / 1_000_000)} MB are the most that is taken at once.`,
    { field: 'file', remedy: say`Split it into several files, or leave out columns that are not needed.` },
  );
const brokenOff = (): AppError =>
  new AppError('bad-input', say`The file broke off on the way; nothing of it was kept.`, {
    field: 'file',
    remedy: say`Send it again.`,
  });
const notAForm = (): AppError =>
  new AppError('wrong-form', say`Send the file as multipart/form-data in a part named “file”.`, { field: 'file' });

function openForm(request: Request): busboy.Busboy {
  if (!request.is('multipart/form-data')) throw notAForm();
  try {
    return busboy({
      headers: request.headers,
      limits: { files: 1, fields: 10, parts: 12, headerPairs: 50 },
      defParamCharset: 'utf8',
    });
  } catch {
    // No boundary, or one that cannot be.
    throw notAForm();
  }
}

/** A file's name as it may be kept and shown: no path, no control characters, whole characters only. */
const cleanName = (name: string | undefined): string =>
  takeCharacters(
    dropBroken(name ?? '')
      .replace(/^.*[\\/]/, '')
      .replace(/\p{C}/gu, ''),
    200,
  ) || 'file';

/**
 * Streams the part named “file” of a multipart request to `take`. Whatever ends the stream early (a line that breaks, a
 * form that is cut short, a `take` that refuses) ends in a refusal, never in an unheard error.
 */
export async function receiveUpload<T>(
  { request, response }: { request: Request; response: Response },
  mostBytes: number,
  take: (file: { name: string; bytes: AsyncIterable<Uint8Array> }) => Promise<T>,
): Promise<T> {
  const form = openForm(request);
  const declared = Number(request.headers['content-length'] ?? 0);
  if (declared > mostBytes + 10_000) {
    response.set('Connection', 'close');
    swallowRest(request);
    throw tooLarge(declared, mostBytes);
  }
  try {
    return await new Promise<T>((resolve, reject) => {
      let taken: Promise<T> | undefined, part: Readable | undefined;
      const fail = (error: unknown): void => {
        part?.destroy();
        reject(error instanceof Error ? error : new Error(String(error)));
      };
      form.on('file', (field, stream, meta) => {
        // An unheard error of this stream would end the process; what is taken from it rejects by itself.
        stream.on('error', () => undefined);
        if (field !== 'file') {
          stream.resume();
          return;
        }
        part = stream;
        taken = take({ name: cleanName(meta.filename), bytes: stream as AsyncIterable<Uint8Array> });
        taken.catch((e: unknown) => {
          fail(e instanceof AppError ? e : form.errored || request.errored || request.aborted ? brokenOff() : e);
        });
      });
      form.on('error', () => {
        fail(brokenOff());
      });
      form.on('close', () => {
        if (taken) taken.then(resolve, () => undefined);
        else
          reject(
            new AppError('bad-input', say`No file came with the request; send it in a part named “file”.`, {
              field: 'file',
            }),
          );
      });
      for (const end of ['aborted', 'error', 'close'] as const)
        request.once(end, () => {
          if (end !== 'close' || !request.complete) {
            form.destroy(brokenOff());
            fail(brokenOff());
          }
        });
      request.pipe(form);
    });
  } catch (error) {
    request.unpipe(form);
    response.set('Connection', 'close');
    swallowRest(request);
    throw error;
  }
}

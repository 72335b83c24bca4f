import busboy from 'busboy';
import type { Request } from 'express';
import { AppError } from './errors';

/** Streams the part named “file” of a multipart request to `take`. */
export function receiveUpload<T>(
  request: Request,
  mostBytes: number,
  take: (file: { name: string; bytes: AsyncIterable<Uint8Array> }) => Promise<T>,
): Promise<T> {
  if (!request.is('multipart/form-data'))
    throw new AppError('bad-input', 'Send the file as multipart/form-data in a part named “file”.', { field: 'file' });
  const declared = Number(request.headers['content-length'] ?? 0);
  if (declared > mostBytes + 10_000) {
    request.resume();
    throw new AppError(
      'too-large',
      `The file has ${Math.round(declared / 1_000_000)} MB; ${Math.round(mostBytes / 1_000_000)} MB are the most that is taken at once.`,
      { field: 'file', remedy: 'Split it into several files, or leave out columns that are not needed.' },
    );
  }
  return new Promise<T>((resolve, reject) => {
    const form = busboy({ headers: request.headers, limits: { files: 1, fields: 10 }, defParamCharset: 'utf8' });
    let taken: Promise<T> | undefined;
    const fail = (error: unknown) => {
      request.unpipe(form);
      request.resume();
      reject(error instanceof Error ? error : new Error(String(error)));
    };
    form.on('file', (part, stream, meta) => {
      if (part !== 'file') {
        stream.resume();
        return;
      }
      taken = take({ name: meta.filename?.slice(0, 200) || 'file', bytes: stream });
      taken.catch(fail);
    });
    form.on('error', fail);
    form.on('close', () => {
      if (taken) taken.then(resolve, fail);
      else
        reject(
          new AppError('bad-input', 'No file came with the request; send it in a part named “file”.', {
            field: 'file',
          }),
        );
    });
    request.pipe(form);
  });
}

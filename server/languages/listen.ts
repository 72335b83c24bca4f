// Who is spoken to: each request is answered in the language that it asks for, where there is a file of it.
import { AsyncLocalStorage } from 'node:async_hooks';
import { speakTo, type Tongue } from '@basileus/core/text';
import type { RequestHandler } from 'express';
import type { Languages } from './files';

const listener = new AsyncLocalStorage<Tongue>();
speakTo(() => listener.getStore());

/** The first language that a request asks for (RFC 9110, Accept-Language); the interface asks for one alone. */
const firstOf = (header: string | undefined): string => header?.split(/[,;]/, 1)[0]?.trim() ?? '';

export function createListener(languages: Languages): RequestHandler {
  return (request, _response, next) => {
    const language = firstOf(request.headers['accept-language']);
    languages.read(language).then((reading) => {
      if (reading?.ok) listener.run(reading.tongue, next);
      else next();
    }, next);
  };
}

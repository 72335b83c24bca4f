import { type ErrorBody, type ErrorCode, errorStatus } from '@basileus/contract';
import type { NextFunction, Request, Response } from 'express';
import type { Logger } from 'pino';
import { ZodError } from 'zod';
import { say, sayWord } from '@basileus/core/text';

/** A refusal: something the person can do something about. Bugs throw `Error`. */
export class AppError extends Error {
  constructor(
    readonly code: ErrorCode,
    message: string,
    /** `notTaken` says that a market has surely not taken what it was given. */
    readonly about: { field?: string | null; remedy?: string; notTaken?: boolean } = {},
    /** Seconds that whoever refused asked to wait before the next try. */
    readonly retryAfterSeconds?: number,
  ) {
    super(message);
  }
}

/** Sentences without facts in them are said here in the language of whoever asked; those with facts were, where they were made. */
const translate = (body: ErrorBody): ErrorBody => ({
  ...body,
  message: sayWord(body.message),
  remedy: body.remedy === null ? null : sayWord(body.remedy),
});

/** The one place where errors end. Secrets and stacks never reach the answer. */
export function createErrorHandler(log: Logger) {
  return (error: unknown, request: Request, response: Response, _next: NextFunction): void => {
    if (response.headersSent) {
      response.destroy();
      return;
    }
    const body = translate(toErrorBody(error));
    if (body.code === 'internal')
      log.error(
        { path: request.path, error: error instanceof Error ? error.stack : String(error) },
        'unexpected error',
      );
    response.status(errorStatus[body.code]).json(body);
  };
}

const sqlStateOf = (error: unknown): string => {
  const { code } = error as { code?: unknown };
  return typeof code === 'string' && /^[0-9A-Z]{5}$/.test(code) ? code : '';
};

/**
 * True where the database is not there, is going or is coming back: connection exceptions, shutdowns, too many sessions,
 * a full disk (SQLSTATE classes 08, 53 and 57P), or nobody listening at all.
 */
export function isAway(error: unknown, state = sqlStateOf(error)): boolean {
  if (/^(08|53|57P0)/.test(state)) return true;
  const { code, name, message } = error as { code?: string; name?: string; message?: string };
  return (
    ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ENOENT', 'ETIMEDOUT'].includes(code ?? '') ||
    name === 'KnexTimeoutError' ||
    /^(Connection terminated|timeout expired|Client has encountered a connection error)/.test(message ?? '')
  );
}

/** True where the database is there, and no session of it was free for long enough. */
const isCrowded = (error: unknown, state: string): boolean =>
  state === '53300' || (error as { name?: string }).name === 'KnexTimeoutError';

function toErrorBody(error: unknown): ErrorBody {
  if (error instanceof AppError)
    return {
      code: error.code,
      message: error.message,
      field: error.about.field ?? null,
      remedy: error.about.remedy ?? null,
    };
  if (error instanceof ZodError) {
    const issue = error.issues[0];
    const field = issue?.path.map(String).join('.') || null;
    const says = issue?.message ?? say`cannot be read`;
    return {
      code: 'bad-input',
      message: /^\p{Lu}/u.test(says) ? says : `${field ?? say`The request`} ${says}.`,
      field,
      remedy: say`Correct the field and try again.`,
    };
  }
  const state = sqlStateOf(error);
  if (isCrowded(error, state))
    return {
      code: 'not-ready',
      message: say`More is asked of the database at once than it answers in time; nothing was changed.`,
      field: null,
      remedy: say`Try again in a moment.`,
    };
  if (isAway(error, state))
    return {
      code: 'not-ready',
      message: say`The database cannot be reached at the moment.`,
      field: null,
      remedy: say`It is looked for again by itself; try again in a moment.`,
    };
  // A value that got past every check of ours and that PostgreSQL cannot hold: refused, nothing of it was kept.
  if (state.startsWith('22'))
    return {
      code: 'bad-input',
      message: say`A value of this request cannot be kept: it is too long, too large or not what its field holds.`,
      field: null,
      remedy: say`Look at the values and try again.`,
    };
  const status = (error as { status?: number; type?: string }).status;
  if (status === 413)
    return {
      code: 'too-large',
      message: say`The request is larger than is taken at once.`,
      field: null,
      remedy: say`Send it in several parts, or as a file.`,
    };
  if (status === 415)
    return {
      code: 'wrong-form',
      message: say`The request comes in a form or an encoding that is not taken here.`,
      field: null,
      remedy: say`Send it as JSON in UTF-8.`,
    };
  if (status !== undefined && status >= 400 && status < 500)
    return { code: 'bad-input', message: say`The request cannot be read.`, field: null, remedy: say`Send it as JSON.` };
  return {
    code: 'internal',
    message: say`Something went wrong on our side; nothing was changed.`,
    field: null,
    remedy: say`Try again. If it stays so, look into the server’s log.`,
  };
}

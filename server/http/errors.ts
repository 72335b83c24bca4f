import { type ErrorBody, type ErrorCode, errorStatus } from '@basileus/contract';
import type { NextFunction, Request, Response } from 'express';
import type { Logger } from 'pino';
import { ZodError } from 'zod';

/** A refusal: something the person can do something about. Bugs throw `Error`. */
export class AppError extends Error {
  constructor(
    readonly code: ErrorCode,
    message: string,
    readonly about: { field?: string; remedy?: string } = {},
  ) {
    super(message);
  }
}

/** The one place where errors end. Secrets and stacks never reach the answer. */
export function createErrorHandler(log: Logger) {
  return (error: unknown, request: Request, response: Response, _next: NextFunction): void => {
    if (response.headersSent) {
      response.destroy();
      return;
    }
    const body = toErrorBody(error);
    if (body.code === 'internal')
      log.error(
        { path: request.path, error: error instanceof Error ? error.stack : String(error) },
        'unexpected error',
      );
    response.status(errorStatus[body.code]).json(body);
  };
}

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
    return {
      code: 'bad-input',
      message: `${field ?? 'The request'}: ${issue?.message ?? 'it cannot be read'}`,
      field,
      remedy: 'Correct the field and try again.',
    };
  }
  const status = (error as { status?: number; type?: string }).status;
  if (status === 413)
    return {
      code: 'too-large',
      message: 'The request is larger than is taken at once.',
      field: null,
      remedy: 'Send it in several parts, or as a file.',
    };
  if (status !== undefined && status >= 400 && status < 500)
    return { code: 'bad-input', message: 'The request cannot be read.', field: null, remedy: 'Send it as JSON.' };
  return {
    code: 'internal',
    message: 'Something went wrong on our side; nothing was changed.',
    field: null,
    remedy: 'Try again. If it stays so, look into the server’s log.',
  };
}

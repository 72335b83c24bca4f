// Who may speak to us. There is no sign-in, so the only thing that keeps other web pages out is that the browser says
// whose page is asking: the Host header (a rebound name carries its own name), Origin and Sec-Fetch-Site.
// Programs on this machine send none of the last two and are let through.
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import { AppError } from './errors';
import { say } from '@basileus/core/text';

const loopback = ['localhost', '127.0.0.1', '[::1]'];

/** True for addresses that only this machine can reach. */
export const isLoopback = (host: string): boolean => /^(localhost|127(\.\d{1,3}){3}|\[?::1\]?)$/i.test(host.trim());

/** Names under which this server may be asked for: loopback always, then where it listens and what the setting names. */
export function listKnownHosts(listensOn: string, named: string | undefined): Set<string> {
  const more = (named ?? '').split(',').map((h) => h.trim().toLowerCase());
  const own = /^(0\.0\.0\.0|\[?::\]?)$/.test(listensOn) ? '' : listensOn.toLowerCase();
  return new Set([...loopback, own.includes(':') && !own.startsWith('[') ? `[${own}]` : own, ...more].filter(Boolean));
}

/** The name in a Host header, without its port. */
const nameOf = (host: string): string => host.toLowerCase().replace(/:\d*$/, '');

const isReading = (method: string): boolean => method === 'GET' || method === 'HEAD';

/**
 * Refuses requests under a name that is not ours, requests that another page makes for data, and everything that changes
 * something from an origin that is not this very one (another port of this machine is another origin).
 */
export function createGuard(knownHosts: ReadonlySet<string>): RequestHandler {
  return (request: Request, _response: Response, next: NextFunction): void => {
    const host = request.headers.host ?? '';
    if (!knownHosts.has(nameOf(host)))
      throw new AppError('not-allowed', say`This server is not known under the name “${nameOf(host).slice(0, 100)}”.`, {
        remedy: say`Open it as localhost, or name the host in BASILEUS_HOSTS.`,
      });
    const { origin } = request.headers,
      site = request.headers['sec-fetch-site'];
    const isForeign =
      (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) ||
      (site !== undefined && site !== 'same-origin' && site !== 'none');
    // A link on another page may open a page of ours; it may not ask for data or change any.
    if (isForeign && (!isReading(request.method) || request.path.startsWith('/api')))
      throw new AppError('not-allowed', say`Another web page asked for this; only Basileus’s own pages may.`, {
        remedy: say`Open Basileus itself and do it there.`,
      });
    next();
  };
}

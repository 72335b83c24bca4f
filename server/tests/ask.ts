// A request as it goes over the line, with headers that a browser would not let a page set; half requests too.
import { request } from 'node:http';
import { connect } from 'node:net';

export interface RawAnswer {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  text: string;
}

/** Sends one request with exactly these headers. */
export const ask = (
  base: string,
  method: string,
  path: string,
  headers: Record<string, string> = {},
  body?: string,
): Promise<RawAnswer> =>
  new Promise((done, fail) => {
    const { hostname, port } = new URL(base);
    const sent = request({ hostname, port, method, path, headers, agent: false }, (response) => {
      const chunks: Buffer[] = [];
      response.on('data', (c: Buffer) => chunks.push(c));
      response.on('end', () => {
        done({ status: response.statusCode ?? 0, headers: response.headers, text: Buffer.concat(chunks).toString() });
      });
    });
    sent.on('error', fail);
    if (body !== undefined) sent.write(body);
    sent.end();
  });

/** Writes bytes to the line and cuts it, as a browser does that is closed in the middle. */
export const breakOff = (base: string, bytes: string): Promise<void> =>
  new Promise((done) => {
    const { hostname, port } = new URL(base);
    const socket = connect(Number(port), hostname, () => {
      socket.write(bytes, () => {
        socket.destroy();
        done();
      });
    });
    socket.on('error', () => {
      done();
    });
  });

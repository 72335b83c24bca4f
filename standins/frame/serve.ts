// The frame that all stand-ins share: HTTP, time that passes, moods, and the door for who is behind the scenes.
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { createServer as createDoor, type Server, type Socket } from 'node:net';
import { createSftpServer, type SftpDoor } from './sftp';
import { type Reply, reply, type StandInRequest, type Works } from './works';

export interface Served {
  server: Server;
  stop: () => Promise<void>;
}

const mostBytes = 80_000_000;
const tickMs = 150;
/** How much longer than looking through its memory, and than keeping it, a market rests from that. */
const restFromLooking = 10,
  restFromKeeping = 50;

/**
 * Opens a market on a port of loopback; `ready` is told which, where any would do. A market that takes files over SFTP
 * speaks it on the same port: who comes with it says so first.
 */
export function serve(
  works: Works,
  sellEveryMs: number,
  port: number,
  ready: (port: number) => void,
  sftp?: SftpDoor,
): Served {
  const stopClock = startClock(works, sellEveryMs);
  const web = createServer((request, response) => {
    answer(works, request, response).catch((e: unknown) => {
      if (!response.headersSent) send(response, reply(400, e instanceof Error ? e.message : 'Not understood.'));
    });
  });
  const files = sftp && createSftpServer(sftp);
  const open = new Set<Socket>();
  const server = createDoor((socket) => {
    open.add(socket);
    socket.setNoDelay(true);
    socket.on('error', () => undefined);
    socket.on('close', () => open.delete(socket));
    socket.once('data', (first: Buffer) => {
      socket.pause();
      socket.unshift(first);
      if (files && first.subarray(0, 4).toString('latin1') === 'SSH-') {
        if (works.moods.failNext > 0) {
          works.moods.failNext--;
          socket.destroy();
        } else files.injectSocket(socket);
        return;
      }
      web.emit('connection', socket);
      // The door of files opens its socket itself, when it has made its keys ready.
      process.nextTick(() => socket.resume());
    });
  });
  server.listen(port, '127.0.0.1', () => {
    const a = server.address();
    ready(typeof a === 'object' && a ? a.port : port);
  });
  return {
    server,
    stop: async () => {
      stopClock();
      works.save();
      for (const socket of open) socket.destroy();
      await new Promise<void>((closed) => {
        server.close(() => {
          closed();
        });
      });
    },
  };
}

/** Time passes: files are worked through, reviews end, things are sold. Answers how to stop it. */
function startClock(works: Works, sellEveryMs: number): () => void {
  let isDirty = false,
    seed = 7;
  const random = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 4294967296;
  };
  let next: NodeJS.Timeout,
    mayKeepAt = 0;
  const tick = (): void => {
    const started = performance.now();
    const done = works.tick(Date.now());
    if (done > 0) isDirty = true;
    const worked = performance.now();
    // A large memory takes its time to be kept: most of the time is for those who ask.
    if (isDirty && worked >= mayKeepAt) {
      works.save();
      isDirty = false;
      mayKeepAt = worked + (performance.now() - worked) * restFromKeeping;
    }
    next = setTimeout(tick, done > 0 ? tickMs : Math.max(tickMs, (worked - started) * restFromLooking));
  };
  next = setTimeout(tick, tickMs);
  const selling =
    sellEveryMs > 0
      ? setInterval(() => {
          if (works.sell(random) > 0) isDirty = true;
        }, sellEveryMs)
      : undefined;
  return () => {
    clearTimeout(next);
    clearInterval(selling);
  };
}

const behind = '/_control/';

async function answer(works: Works, message: IncomingMessage, response: ServerResponse): Promise<void> {
  const url = new URL(message.url ?? '/', 'http://market');
  const path = url.pathname;
  if (path.startsWith(behind) && !isFromHere(message)) {
    send(response, reply(403, 'Only programs on this machine may tell the market how to behave.'));
    return;
  }
  const bytes = await readBody(message);
  const body = bytes.toString('utf8');
  if (path.startsWith(behind)) {
    send(response, control(works, path.slice(behind.length), body));
    return;
  }
  const request: StandInRequest = { method: message.method ?? 'GET', url, path, headers: message.headers, body, bytes };
  const { moods } = works;
  if (moods.slowMs > 0) await new Promise((r) => setTimeout(r, moods.slowMs));
  const kind = works.kindOf(request);
  const mood = kind === 'other' ? undefined : followMood(works, kind === 'file');
  if (mood === 'forget') await works.answer(request);
  if (mood === 'forget' || mood === 'hang-up') message.socket.destroy();
  else send(response, mood ?? (await works.answer(request)));
}

function control(works: Works, what: string, body: string): Reply {
  if (what !== 'mood') return works.control(what, body);
  Object.assign(works.moods, JSON.parse(body || '{}'));
  return reply(200, JSON.stringify(works.moods));
}

/** True for a program on this machine: asked under a loopback name, and by no web page. */
const isFromHere = ({ headers }: IncomingMessage): boolean =>
  /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/.test(headers.host ?? '') &&
  headers.origin === undefined &&
  ['none', undefined].includes(headers['sec-fetch-site'] as string | undefined);

/** What the market does instead of its work, each as often as it was told to; `forget` takes the file and then hangs up. */
function followMood({ moods }: Works, isFile: boolean): Reply | 'forget' | 'hang-up' | undefined {
  if (moods.failNext > 0) {
    moods.failNext--;
    return reply(503, 'The house is closed for a moment.');
  }
  if (isFile && moods.forgetNext > 0) {
    moods.forgetNext--;
    return 'forget';
  }
  if (moods.hangUpNext > 0) {
    moods.hangUpNext--;
    return 'hang-up';
  }
  if (moods.garbageNext > 0) {
    moods.garbageNext--;
    return reply(200, '\u0000\u0001<<<\tnot what you expect\n');
  }
  return undefined;
}

const send = (response: ServerResponse, { status, text, bytes, headers }: Reply): void => {
  response.writeHead(status, { 'Content-Type': 'text/plain; charset=utf-8', ...headers }).end(bytes ?? text);
};

async function readBody(request: IncomingMessage): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > mostBytes) throw new Error('The file is too large.');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

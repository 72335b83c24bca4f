// Two starts must not share one folder. The socket is held as long as this process lives, however it ends; one that nobody
// answers is left over.
import { createConnection, createServer } from 'node:net';
import { rmSync } from 'node:fs';

// Relative, because the path of a socket may only be some hundred bytes long.
const path = 'start.sock';

/** Claims the working folder; answers false where another start holds it. */
export async function claimFolder() {
  const isHeld = await new Promise((done) => {
    const asking = createConnection(path);
    asking.once('connect', () => {
      asking.destroy();
      done(true);
    });
    asking.once('error', () => done(false));
  });
  if (isHeld) return false;
  rmSync(path, { force: true });
  return new Promise((done) => {
    const server = createServer((c) => c.destroy());
    server.once('error', () => done(false));
    server.listen(path, () => {
      server.unref();
      done(true);
    });
  });
}

// The parts that make up a running Basileus, each kept up: whatever ends is started again, after pauses that grow, until
// all of it is told to end. Nothing is given up on that may come back by itself.
import { fork } from 'node:child_process';

const shortest = 250,
  longest = 30_000,
  steadyMs = 60_000;
/** A program that says so by its code cannot be helped by starting it again (sysexits.h, EX_CONFIG). */
const cannotStart = 78;
/** A program that is up says so every two seconds; silent for a minute of ours, it hangs. */
const beatLooks = 12,
  beatEveryMs = 5000;

/**
 * Keeps one part up. `start(onEnd)` resolves when the part is up and calls `onEnd(why)` when it has ended; it rejects with
 * an Error whose message says why it did not come up. `onUp(times)` is told each time it is up.
 */
export function keepUp(name, start, { onUp = () => undefined, onHopeless, say = console.error } = {}) {
  let pause = shortest,
    upSince = 0,
    times = 0,
    isEnding = false,
    lastSaid = '';
  const attempt = async () => {
    if (isEnding) return;
    try {
      await start((why) => later(why), times);
      upSince = Date.now();
      lastSaid = '';
      onUp(++times);
    } catch (error) {
      if (error.isHopeless && times === 0) return onHopeless(error.message);
      later(error.message);
    }
  };
  const later = (why) => {
    if (isEnding) return;
    if (upSince && Date.now() - upSince > steadyMs) pause = shortest;
    upSince = 0;
    const line = `${name} ended: ${why.replace(/\.$/, '')}. It is started again ${pause < 1000 ? 'at once' : `in ${Math.round(pause / 1000)} s`}.`;
    // A disk that stays full is said once, not every half minute.
    if (pause < longest || why !== lastSaid) say(line);
    lastSaid = why;
    setTimeout(attempt, pause);
    pause = Math.min(longest, pause * 2);
  };
  void attempt();
  return {
    end: () => {
      isEnding = true;
    },
  };
}

/** A program of ours as a part: up when it says “ready” (or tells its port), ended when its process has ended. */
export class Program {
  #child;

  constructor(file, makeEnv, node = process.execPath) {
    this.file = file;
    this.makeEnv = makeEnv;
    this.node = node;
  }

  start(onEnd) {
    return new Promise((done, refuse) => {
      const child = fork(this.file, [], {
        execPath: this.node,
        env: { ...process.env, NODE_OPTIONS: '--enable-source-maps', ...this.makeEnv() },
        stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
        detached: true,
      });
      this.#child = child;
      let isUp = false,
        hasBeat = false,
        missed = 0;
      const watch = setInterval(() => {
        if (hasBeat && ++missed > beatLooks) child.kill('SIGKILL');
      }, beatEveryMs);
      child.on('message', (m) => {
        missed = 0;
        if (m === 'beat') {
          hasBeat = true;
          return;
        }
        isUp = true;
        done(m);
      });
      child.once('error', (e) => refuse(e));
      child.once('exit', (code, signal) => {
        clearInterval(watch);
        const why = signal ? `killed by ${signal}` : `its process ended with ${code}`;
        if (isUp) onEnd(why);
        else refuse(Object.assign(new Error(why), { isHopeless: code === cannotStart }));
      });
    });
  }

  stop() {
    const child = this.#child;
    return new Promise((done) => {
      if (!child || child.exitCode !== null || child.signalCode !== null) return done();
      child.once('exit', () => done());
      child.kill('SIGTERM');
      setTimeout(() => child.kill('SIGKILL'), 8000).unref();
    });
  }
}

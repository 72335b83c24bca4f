// Medians of repeated runs, each in a process of its own, beside a general-purpose reference on the same work.
import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';

export interface Sample {
  seconds: number;
  peakMb: number;
}
export interface Measured {
  name: string;
  ours: Sample;
  reference: Sample | undefined;
  referenceName: string;
  unit: string;
  amount: number;
  aim: string;
}

const median = (list: number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

/** Runs one task of a worker file in fresh processes and gives the median time and peak resident memory. */
export async function sample(task: string, args: string[] = [], times = 3): Promise<Sample> {
  const runs: Sample[] = [];
  for (let i = 0; i < times; i++) {
    runs.push(
      await new Promise<Sample>((done, fail) => {
        const child = fork(fileURLToPath(new URL('./bench-worker.mjs', import.meta.url)), [task, ...args], {
          stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
          execArgv: ['--expose-gc', '--max-old-space-size=8192'],
        });
        child.once('message', (m) => {
          done(m as Sample);
        });
        child.once('exit', (code) => {
          if (code !== 0) fail(new Error(`${task} ended with ${code}`));
        });
      }),
    );
  }
  return { seconds: median(runs.map((r) => r.seconds)), peakMb: median(runs.map((r) => r.peakMb)) };
}

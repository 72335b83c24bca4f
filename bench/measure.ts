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
  reference: Sample;
  referenceName: string;
  unit: string;
  amount: number;
  /** The most that ours may take as a multiple of the reference. */
  aim: number | undefined;
}

export const median = (list: number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

export interface Run {
  task: string;
  args: string[];
}

/** One task of the worker file in a fresh process. */
const runOnce = ({ task, args }: Run): Promise<Sample> =>
  new Promise((done, fail) => {
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
  });

const toMedian = (runs: readonly Sample[]): Sample => ({
  seconds: median(runs.map((r) => r.seconds)),
  peakMb: median(runs.map((r) => r.peakMb)),
});

/** Medians of ours and of the reference, run in turn, so that a busy minute of the machine weighs on both. */
export async function samplePair(ours: Run, reference: Run, times = 5): Promise<{ ours: Sample; reference: Sample }> {
  const a: Sample[] = [],
    b: Sample[] = [];
  for (let i = 0; i < times; i++) {
    b.push(await runOnce(reference));
    a.push(await runOnce(ours));
  }
  return { ours: toMedian(a), reference: toMedian(b) };
}

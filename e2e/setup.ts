// Once for all end-to-end files: the application is built and a throwaway cluster stands, with an empty house in it. Each file
// opens its own world, as a copy of that.
import { fork } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import type { TestProject } from 'vitest/node';
import { emptyHouse, freePort, root } from './world';

declare module 'vitest' {
  export interface ProvidedContext {
    clusterUrl: string;
    clusterBin: string;
    chromium: string;
  }
}

interface Cluster {
  url: (name: string) => string;
  bin: string;
  stop: () => Promise<void>;
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const { buildAll } = (await import('../scripts/lib/build.mjs' as string)) as { buildAll: () => Promise<void> };
  const { startCluster } = (await import('../scripts/lib/postgres.mjs' as string)) as {
    startCluster: (folder: string, o: { fast: boolean }) => Promise<Cluster>;
  };
  const { ensureChromium } = (await import('../scripts/lib/install.mjs' as string)) as { ensureChromium: () => string };
  await buildAll();
  const folder = mkdtempSync(join(tmpdir(), 'basileus-e2e-'));
  const cluster = await startCluster(folder, { fast: true });
  await makeEmptyHouse(cluster);
  project.provide('clusterUrl', cluster.url('postgres'));
  project.provide('clusterBin', cluster.bin);
  project.provide('chromium', ensureChromium());
  return async () => {
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}

/** A database with its tables and its queues, made once by the application itself. */
async function makeEmptyHouse(cluster: Cluster): Promise<void> {
  const admin = new pg.Client(cluster.url('postgres'));
  await admin.connect();
  await admin.query(`create database ${emptyHouse}`);
  await admin.end();
  const server = fork(join(root, 'dist/server.mjs'), {
    env: {
      ...process.env,
      NODE_OPTIONS: '',
      BASILEUS_DATABASE_URL: cluster.url(emptyHouse),
      BASILEUS_PORT: String(await freePort()),
      BASILEUS_DEMO: 'no',
      BASILEUS_LOG: 'fatal',
    },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  await once(server, 'message');
  server.kill('SIGTERM');
  await once(server, 'exit');
}

// Once for all server tests: a throwaway cluster of the real PostgreSQL, with an empty house that each file has a copy of.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import type { TestProject } from 'vitest/node';
import { allJobs } from '../all-jobs';
import { connect, migrate } from '../database';
import { openQueues } from '../jobs';
import { houseTemplate } from './template';

declare module 'vitest' {
  export interface ProvidedContext {
    serverCluster: string;
  }
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const { startCluster } = (await import('../../scripts/lib/postgres.mjs' as string)) as {
    startCluster: (
      folder: string,
      o: { fast: boolean },
    ) => Promise<{ url: (name: string) => string; stop: () => Promise<void> }>;
  };
  const folder = mkdtempSync(join(tmpdir(), 'basileus-server-'));
  const cluster = await startCluster(folder, { fast: true });
  await makeTemplate(cluster.url('postgres'), cluster.url(houseTemplate));
  project.provide('serverCluster', cluster.url('postgres'));
  return async () => {
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}

/** A database with its tables and its queues, once; making them took longer than most that is tested on them. */
async function makeTemplate(admin: string, url: string): Promise<void> {
  const client = new pg.Client(admin);
  await client.connect();
  await client.query(`create database ${houseTemplate}`);
  await client.end();
  const db = connect(url, 2);
  await migrate(db);
  await openQueues(db, allJobs);
  await db.destroy();
}

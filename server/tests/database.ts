// Once for all server tests: a throwaway cluster of the real PostgreSQL.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

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
  project.provide('serverCluster', cluster.url('postgres'));
  return async () => {
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}

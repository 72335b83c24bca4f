// Once for all end-to-end files: the application is built and a throwaway cluster stands. Each file opens its own world in it.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

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
  project.provide('clusterUrl', cluster.url('postgres'));
  project.provide('clusterBin', cluster.bin);
  project.provide('chromium', ensureChromium());
  return async () => {
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}

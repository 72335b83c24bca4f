import { defineConfig } from 'vitest/config';

const node = { environment: 'node' as const };
export default defineConfig({
  test: {
    // Each file has a database, servers and stand-ins of its own; two at once is what two cores carry.
    maxWorkers: 2,
    projects: [
      {
        test: {
          ...node,
          name: 'unit',
          // What these share is code, loaded once a worker, and no state: a third of their time was loading it anew.
          isolate: false,
          testTimeout: 180_000,
          include: [
            'core/**/*.test.ts',
            'contract/**/*.test.ts',
            'rulebooks/**/*.test.ts',
            'standins/**/*.test.ts',
            'demo/**/*.test.ts',
            'web/**/*.test.ts',
            'web/**/*.test.tsx',
          ],
        },
      },
      {
        test: {
          ...node,
          name: 'server',
          // The same: each file has a database of its own.
          isolate: false,
          include: ['server/**/*.test.ts'],
          globalSetup: ['server/tests/database.ts'],
          // Far over what anything takes: a machine may be at a third of its speed.
          testTimeout: 180_000,
          hookTimeout: 240_000,
        },
      },
      {
        test: {
          ...node,
          name: 'e2e',
          isolate: false,
          include: ['e2e/**/*.test.ts'],
          testTimeout: 300_000,
          hookTimeout: 300_000,
          globalSetup: ['e2e/setup.ts'],
        },
      },
    ],
  },
});

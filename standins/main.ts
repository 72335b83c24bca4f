// All stand-ins in one process, each on a port of its own. `STANDINS_PORTS` says which, by key: { "quillhaven": 4701 }.
import { join } from 'node:path';
import type { Served } from './frame';
import { standIns } from './stand-ins';

const number = (name: string, otherwise: number): number => Number(process.env[name] ?? otherwise);
const ports = JSON.parse(process.env['STANDINS_PORTS'] ?? '{}') as Record<string, number>;
const folder = process.env['STANDINS_FOLDER'];
const running: Served[] = [];
const up = new Map<string, number>();

for (const [key, port] of Object.entries(ports)) {
  const start = standIns[key];
  if (!start) {
    console.error(`There is no stand-in “${key}”.`);
    process.exit(1);
  }
  const market = start(
    {
      ...(folder ? { file: join(folder, `${key}.json`) } : {}),
      workMs: number('STANDINS_WORK_MS', 2500),
      reviewMs: number('STANDINS_REVIEW_MS', 8000),
      sellEveryMs: number('STANDINS_SELL_MS', 5000),
    },
    port,
    (actual) => {
      up.set(key, actual);
      if (up.size === Object.keys(ports).length) process.send?.({ ports: Object.fromEntries(up) });
    },
  );
  market.server.on('error', (e) => {
    console.error(`The stand-in ${key} cannot start: ${e.message}`);
    process.exit(1);
  });
  running.push(market);
}
const end = () => void Promise.all(running.map((m) => m.stop())).then(() => process.exit(0));
process.on('SIGTERM', end);
process.on('SIGINT', end);
process.on('disconnect', end);

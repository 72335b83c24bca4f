import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import type { BookDocument } from './book';
import { startMarket } from './server';

const number = (name: string, otherwise: number) => Number(process.env[name] ?? otherwise);
const file = process.env['QUILLHAVEN_FILE'];
const market = startMarket(
  {
    book: quillhavenDocument as BookDocument,
    ...(file ? { file } : {}),
    workMs: number('QUILLHAVEN_WORK_MS', 2500),
    reviewMs: number('QUILLHAVEN_REVIEW_MS', 8000),
    sellEveryMs: number('QUILLHAVEN_SELL_MS', 5000),
  },
  number('QUILLHAVEN_PORT', 0),
  (port) => {
    process.send?.({ port });
  },
);
market.server.on('error', (e) => {
  console.error(`The stand-in market cannot start: ${e.message}`);
  process.exit(1);
});
const end = () => void market.stop().then(() => process.exit(0));
process.on('SIGTERM', end);
process.on('SIGINT', end);
process.on('disconnect', end);

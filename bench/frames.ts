// Opening and scrolling the catalog table in headless Chromium over 100,000 SKUs: frame times as the browser paints them.
import { chromium, type Page } from 'playwright-core';
import { median } from './measure';

interface Frames {
  p50: number;
  p95: number;
  p99: number;
}
export interface TableMeasured {
  openMs: number;
  ours: Frames;
  plain: Frames;
  count: number;
  rounds: number;
}

const count = 400,
  rounds = 5;
const flags = ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'];

/** A page of 3,000 rows of cells in plain HTML, as wide as the table shows them. */
const plainPage = (): string => {
  const cells = (row: number) =>
    Array.from({ length: 10 }, (_, c) => `<span>cell ${row} of column ${c}</span>`).join('');
  const rows = Array.from({ length: 3000 }, (_, row) => `<div>${cells(row)}</div>`).join('');
  return `<style>main { height: 600px; overflow: auto } div { height: 30px; white-space: nowrap } span { display: inline-block; width: 110px; overflow: hidden; border-right: 1px solid #ccc }</style><main>${rows}</main>`;
};

/** Scrolls a box by three rows a frame and gives the time of each frame, the first ones left out. */
async function measureScrolling(page: Page, selector: string): Promise<Frames> {
  const times = await page.evaluate(
    async ({ selector, count }) => {
      const box = document.querySelector(selector)!;
      const frames: number[] = [];
      let last = performance.now();
      for (let i = 0; i < count; i++) {
        box.scrollTop += 90;
        await new Promise<void>((painted) => {
          requestAnimationFrame(() => {
            const now = performance.now();
            frames.push(now - last);
            last = now;
            painted();
          });
        });
      }
      return frames.slice(10);
    },
    { selector, count },
  );
  times.sort((a, b) => a - b);
  const at = (q: number) => times[Math.floor(times.length * q)]!;
  return { p50: at(0.5), p95: at(0.95), p99: at(0.99) };
}

const toMedians = (list: readonly Frames[]): Frames => {
  const of = (key: keyof Frames) => Math.round(median(list.map((f) => f[key])) * 10) / 10;
  return { p50: of('p50'), p95: of('p95'), p99: of('p99') };
};

export async function measureTable(base: string, executablePath: string): Promise<TableMeasured> {
  const browser = await chromium.launch({ executablePath, args: flags });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const ours: Frames[] = [],
    plain: Frames[] = [],
    open: number[] = [];
  for (let i = 0; i < rounds; i++) {
    await page.setContent(plainPage());
    plain.push(await measureScrolling(page, 'main'));
    const started = performance.now();
    await page.goto(`${base}/all/gather?open=all`);
    await page
      .getByRole('gridcell', { name: /[A-Z]{2}-/ })
      .first()
      .waitFor();
    open.push(performance.now() - started);
    ours.push(await measureScrolling(page, '[role=grid]'));
  }
  await browser.close();
  return {
    openMs: Math.round(median(open)),
    ours: toMedians(ours),
    plain: toMedians(plain),
    count: count - 10,
    rounds,
  };
}

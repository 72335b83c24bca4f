// Opening and scrolling the catalog table in headless Chromium over 100,000 SKUs: frame times as the browser paints them.
import { chromium } from 'playwright-core';

export interface Frames {
  openMs: number;
  p50: number;
  p95: number;
  worst: number;
  count: number;
}

export async function measureFrames(base: string, executablePath: string): Promise<Frames> {
  const browser = await chromium.launch({
    executablePath,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${base}/all/gather`);
  await page.getByRole('grid').waitFor();
  const started = Date.now();
  await page.goto(`${base}/all/gather?open=all`);
  await page
    .getByRole('gridcell', { name: /[A-Z]{2}-/ })
    .first()
    .waitFor();
  const openMs = Date.now() - started;
  const times = await page.evaluate(async () => {
    const box = document.querySelector('[role=grid]')!;
    const frames: number[] = [];
    let last = performance.now();
    for (let i = 0; i < 400; i++) {
      box.scrollTop += 90;
      await new Promise<void>((r) => {
        requestAnimationFrame(() => {
          const now = performance.now();
          frames.push(now - last);
          last = now;
          r();
        });
      });
    }
    return frames.slice(10);
  });
  await browser.close();
  times.sort((a, b) => a - b);
  const at = (q: number) => Math.round(times[Math.floor(times.length * q)]! * 10) / 10;
  return { openMs, p50: at(0.5), p95: at(0.95), worst: at(0.999), count: times.length };
}

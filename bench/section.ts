// docs/measurements.md is made of sections, each written by one run; the others stay as they are.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const title = '# Measurements\n';

/** Puts a section in the place of the one of its name, or behind the last. `text` begins with its heading of two signs. */
export function writeSection(root: string, text: string): void {
  const path = join(root, 'docs/measurements.md');
  const heading = text.slice(0, text.indexOf('\n'));
  const sections = (existsSync(path) ? readFileSync(path, 'utf8').replace(title, '') : '')
    .split(/^(?=## )/m)
    .map((s) => s.trim())
    .filter((s) => s.startsWith('## '));
  const at = sections.findIndex((s) => s.startsWith(`${heading}\n`));
  if (at < 0) sections.push(text.trim());
  else sections[at] = text.trim();
  writeFileSync(path, `${title}\n${sections.join('\n\n')}\n`);
}

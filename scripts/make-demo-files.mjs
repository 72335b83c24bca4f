// Writes the demo's import files anew: node scripts/make-demo-files.mjs
import { build } from 'esbuild';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './lib/say.mjs';

const out = join(root, 'dist/demo-files.mjs');
await build({
  stdin: {
    contents: `export * from './demo/files/index.ts'; export * from './demo/catalog/index.ts';`,
    resolveDir: root,
    loader: 'ts',
  },
  outfile: out,
  bundle: true,
  platform: 'node',
  format: 'esm',
  external: ['exceljs', 'iconv-lite', 'decimal.js', 'date-fns', 'saxes', 'fflate'],
  logLevel: 'error',
});
const { makeSupplierFile, makeMorgenkrugList, makePriceList, buildCatalog } = await import(pathToFileURL(out).href);
writeFileSync(join(root, 'demo/files/tidewrack-autumn-list.csv'), makeSupplierFile());
writeFileSync(join(root, 'demo/files/morgenkrug-preisliste.xlsx'), await makeMorgenkrugList());
const priced = [...buildCatalog()]
  .filter(
    (p) => p.kind === 'variant' && p.fields.price && (p.fields.sku.startsWith('FP-') || p.fields.sku.startsWith('MG-')),
  )
  .slice(0, 40);
writeFileSync(
  join(root, 'demo/files/winter-prices.xlsx'),
  await makePriceList(priced.map((p) => ({ sku: p.fields.sku, price: p.fields.price }))),
);
rmSync(out);

// Custom properties of a document (ECMA-376 part 2, docProps/custom.xml).
import { sheetBounds } from './bounds';
import { createSax } from './zip-parts';

const mostProperties = 50;
/** Custom properties that are texts, by name. */
export function readProperties(into: Record<string, string>) {
  let name = '';
  return createSax({
    open: (n, a) => {
      if (n === 'property') name = a['name'] ?? '';
    },
    text: (t) => {
      if (name !== '' && Object.keys(into).length < mostProperties) into[name] = join(into[name] ?? '', t);
    },
    close: (n) => {
      if (n === 'property') name = '';
    },
  });
}

/** What is longer than a cell may be is kept as one character more than that, so that it is seen and refused. */
export const join = (text: string, more: string): string =>
  text.length > sheetBounds.cellCharacters ? text : (text + more).slice(0, sheetBounds.cellCharacters + 1);

// The shared strings of a workbook (ECMA-376 part 1, 18.4.8): an entry with one text is plain, one with runs is not.
import { createPlainReader, isPlain, type LastTold, readEntities } from '../text/plain-xml';
import { join } from './properties';
import { createSax } from './zip-parts';

const entry = /[ \t\n]*<si><t(?: xml:space="preserve")?>([^<]*)<\/t><\/si>/y;

/** Takes the text of the part as it comes; `put` is given each string, readings in phonetic script left out. */
export function createStringReader(put: (text: string) => void): (text: string, isLast: boolean) => void {
  let string = '',
    isInside = false,
    isPhonetic = false,
    isText = false;
  const last: LastTold = { closed: '' };
  return createPlainReader(
    'si',
    (text, at, end) => {
      entry.lastIndex = at;
      const found = end < 0 ? null : entry.exec(text);
      if (!found || !isPlain(found[1]!)) return -1;
      put(join('', readEntities(found[1]!)));
      return entry.lastIndex;
    },
    createSax(
      {
        open: (name) => {
          if (name === 'si') {
            isInside = true;
            string = '';
          }
          if (name === 'rPh') isPhonetic = true;
          if (name === 't') isText = true;
        },
        text: (t) => {
          if (isInside && isText && !isPhonetic) string = join(string, t);
        },
        close: (name) => {
          if (name === 'si') {
            isInside = false;
            put(string);
          }
          if (name === 'rPh') isPhonetic = false;
          if (name === 't') isText = false;
        },
      },
      last,
    ),
    last,
  );
}

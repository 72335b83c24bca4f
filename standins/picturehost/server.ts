// The host of the house's pictures: whatever is asked for by a SKU and a number is drawn, so that links of the demo lead somewhere.
import sharp from 'sharp';
import { type Moods, type Pace, type Reply, reply, serve, type Served, startMoods, type Works } from '../frame';
import { draw, nameDrawing } from './draw';

export interface RunningPictures extends Served {
  moods: Moods;
  /** Paths that were asked for. */
  asked: string[];
}

/** Bytes of each drawing, made once. */
const made = new Map<string, Promise<Buffer>>();
const mostMade = 600;

function make(name: string): Promise<Buffer> {
  const drawing = nameDrawing(name);
  const key = JSON.stringify(drawing);
  const known = made.get(key);
  if (known) return known;
  const drawn = sharp(Buffer.from(draw(drawing).svg));
  const bytes = (
    drawing.flaw === 'png' ? drawn.png() : drawn.flatten({ background: '#fff' }).jpeg({ quality: 82 })
  ).toBuffer();
  if (made.size < mostMade) made.set(key, bytes);
  return bytes;
}

export function startPictures(options: Pace, port: number, ready: (port: number) => void): RunningPictures {
  const moods = startMoods(),
    asked: string[] = [];
  const works: Works = {
    moods,
    kindOf: () => 'answer',
    answer: async ({ method, path }): Promise<Reply> => {
      asked.push(path);
      const name = decodeURIComponent(/^\/([^/]+)\.jpg$/.exec(path)?.[1] ?? '');
      if (method !== 'GET' || name === '') return reply(404, 'There is nothing here.');
      const { flaw } = nameDrawing(name);
      if (flaw === 'gone') return reply(404, 'This picture was taken down.');
      if (flaw === 'page') return reply(200, '<!doctype html><title>Sign in</title>', { 'Content-Type': 'text/html' });
      return {
        ...reply(200, '', { 'Content-Type': flaw === 'png' ? 'image/png' : 'image/jpeg' }),
        bytes: await make(name),
      };
    },
    control: () => reply(404, 'Nothing can be told here.'),
    tick: () => 0,
    sell: () => 0,
    save: () => undefined,
  };
  return { ...serve(works, options.sellEveryMs, port, ready), moods, asked };
}

import { mkdirSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Tongue } from '@basileus/core/text';
import { createErrorHandler } from '../http';
import express from 'express';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addLanguageRoutes, createListener, openLanguages } from '.';

const around = mkdtempSync(join(tmpdir(), 'basileus-languages-')),
  folder = join(around, 'languages');
const swedish: Omit<Tongue, 'findings'> = {
  language: 'sv',
  name: 'Svenska',
  says: {
    'There is no file of the language “{1}”.': 'Det finns ingen fil för språket ”{1}”.',
    'is missing': 'saknas',
    'Correct the field and try again.': 'Rätta fältet och försök igen.',
  },
};
const write = (name: string, text: string): void => {
  writeFileSync(join(folder, name), text);
};
let server: Server, base: string;
const ask = async (path: string, language?: string) => {
  const r = await fetch(`${base}${path}`, language === undefined ? {} : { headers: { 'Accept-Language': language } });
  return { status: r.status, body: (await r.json()) as { message?: string; remedy?: string; rows?: unknown[] } };
};

beforeAll(async () => {
  mkdirSync(folder);
  write('sv.json', JSON.stringify(swedish));
  write('de.json', '{ "language": "de", ');
  write('fi.json', JSON.stringify({ ...swedish, language: 'nb' }));
  write('sentences.json', JSON.stringify({ ...swedish, language: 'en' }));
  write('../outside.json', JSON.stringify(swedish));
  const languages = openLanguages(folder);
  const app = express();
  app.use(createListener(languages));
  addLanguageRoutes(app, languages);
  app.use(createErrorHandler(pino({ level: 'silent' })));
  server = createServer(app);
  await new Promise<void>((done) => {
    server.listen(0, '127.0.0.1', done);
  });
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.close();
  rmSync(around, { recursive: true });
});

describe('languages of the interface', () => {
  it('are the files of a folder that are named by a tag; what cannot be spoken from says why', async () => {
    const { body } = await ask('/languages');
    expect(body.rows).toEqual([
      { language: 'de', name: 'de', sentences: 0, fault: expect.stringMatching(/^It is no JSON: /) as string },
      { language: 'fi', name: 'fi', sentences: 0, fault: 'It says that it is nb; name it nb.json.' },
      { language: 'sv', name: 'Svenska', sentences: 3, fault: null },
    ]);
  });
  it('are given whole', async () => {
    const { status, body } = await ask('/languages/sv');
    expect([status, body]).toEqual([200, { ...swedish, findings: {} }]);
  });
  it.each(['/languages/da', '/languages/..%2Foutside', '/languages/sentences'])(
    'are no other files: %s',
    async (path) => {
      expect((await ask(path)).status).toBe(404);
    },
  );
  it('that cannot be read are refused with the reason', async () => {
    const { status, body } = await ask('/languages/de');
    expect([status, body.message]).toEqual([422, 'The file of the language de cannot be read.']);
    expect(body.remedy).toContain('JSON');
  });
});

describe('a refusal', () => {
  it('is said in the language that the request asks for, and in English to everybody else at the same time', async () => {
    const [sv, en, da] = await Promise.all([
      ask('/languages/da', 'sv, en;q=0.5'),
      ask('/languages/da'),
      ask('/languages/da', 'da'),
    ]);
    expect(sv.body.message).toBe('Det finns ingen fil för språket ”da”.');
    expect(en.body.message).toBe('There is no file of the language “da”.');
    expect(da.body.message).toBe('There is no file of the language “da”.');
  });
  it('of a field that is wrong is said in it too, with its remedy', async () => {
    const long = await ask(`/languages/${'a'.repeat(41)}`, 'sv');
    expect(long.status).toBe(400);
    expect(long.body.remedy).toBe('Rätta fältet och försök igen.');
  });
});

describe('a file that changes', () => {
  it('is read anew', async () => {
    write('sv.json', JSON.stringify({ ...swedish, name: 'Svenska, anew' }));
    utimesSync(join(folder, 'sv.json'), new Date(), new Date(Date.now() + 5_000));
    expect((await ask('/languages/sv')).body).toMatchObject({ name: 'Svenska, anew' });
  });
});

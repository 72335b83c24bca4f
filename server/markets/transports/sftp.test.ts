// A market in folders over SFTP: our client against the stand-in's real server.
import { createHash } from 'node:crypto';
import { parseRulebook } from '@basileus/core/rulebook';
import { wadilineDocument } from '@basileus/rulebooks/wadiline';
import { type BookDocument, type RunningMarket, seller, startMarket } from '@basileus/standins/wadiline';
import ssh2 from 'ssh2';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { until } from '../../tests/house';
import { type Gate, openFreeGate } from '../gate';
import type { Market } from '../load';
import { makePrivateKey, readPublicKey } from '../key-pairs';
import { openMarketPort, readWholeShelf } from '../port';
import { linkToEntry } from './http';

const reading = parseRulebook(wadilineDocument);
if (!reading.ok) throw new Error('The rulebook is not valid.');
const book = reading.rulebook;
let market: RunningMarket, port: number;
beforeAll(async () => {
  port = await new Promise<number>((done) => {
    market = startMarket({ book: wadilineDocument as BookDocument, workMs: 20, reviewMs: 10, sellEveryMs: 0 }, 0, done);
  });
});
afterAll(() => market.stop());

const at = (connection: Market['connection']): Market =>
  ({ name: 'Wadiline', rulebook: book, connection }) as unknown as Market;
const home = (): Market['connection'] => ({ url: `sftp://127.0.0.1:${port}`, user: seller.user });
const open = (gate: Gate = openFreeGate(seller.password), connection = home()) => openMarketPort(at(connection), gate);
const file = (name: string, ref = 'GHOST') => ({
  name,
  operation: 'stock',
  form: 'terms',
  key: name,
  records: 1,
  bytes: Buffer.from(
    `<?xml version="1.0"?>\n<sheet>\n<entry ref="${ref}"><terms><pieces>3</pieces></terms></entry>\n</sheet>\n`,
  ),
});
const files = () => Object.keys(market.shelf.memory.folders.files);
const fingerprint = (): string => {
  const key = ssh2.utils.parseKey(market.shelf.memory.hostKey);
  if (key instanceof Error) throw key;
  return `SHA256:${createHash('sha256').update(key.getPublicSSH()).digest('base64').replace(/=+$/, '')}`;
};

describe('a market over SFTP', () => {
  it('is given a file under its name, answers in another folder, and the answer is moved aside when it is read', async () => {
    const ticket = await open().submit(file('wd-terms-1.xml'));
    expect(ticket).toBe('wd-terms-1.xml');
    const receipt = await until(
      () => open().fetchReceipt(ticket, 'full'),
      (r) => r !== undefined,
    );
    expect(receipt).toContain('<of n="1" ref="GHOST" word="declined"><fault id="w12" at="@ref"/></of>');
    await open().putAside!(ticket);
    expect(files()).toContain('/said/read/wd-terms-1.said.xml');
    expect(await open().fetchReceipt(ticket, 'full')).toBeUndefined();
  });
  it('is given each file once, also when it has been taken away meanwhile', async () => {
    const before = Object.keys(market.shelf.memory.seen).length;
    await open().submit(file('wd-terms-2.xml'));
    await until(
      () => open().fetchReceipt('wd-terms-2.xml', 'full'),
      (r) => r !== undefined,
    );
    expect(await open().submit(file('wd-terms-2.xml'))).toBe('wd-terms-2.xml');
    await until(
      () => Promise.resolve(files().filter((f) => f.startsWith('/in/'))),
      (f) => f.length === 0,
    );
    expect(Object.keys(market.shelf.memory.seen)).toHaveLength(before + 1);
  });
  it('never sees half of one: what is not renamed is not taken', async () => {
    market.shelf.memory.folders.files['/in/wd-terms-3.xml.part'] = { bytes: 'PHNoZWV0Pg==', changed: 0 };
    const ticket = await open().submit(file('wd-terms-3.xml'));
    await until(
      () => open().fetchReceipt(ticket, 'full'),
      (r) => r !== undefined,
    );
    expect(files().filter((f) => f.endsWith('.part'))).toEqual([]);
  });
  it('shows its shelf, and nothing new where the file is as it was', async () => {
    market.shelf.memory.entries['PAN-1'] = {
      ref: 'PAN-1',
      number: 'W1',
      cells: {},
      standing: 'declined',
      because: 'a & b',
      readAt: 0,
      since: 1,
      sold: 0,
    };
    await open().submit(file('wd-terms-4.xml'));
    await until(
      () => open().fetchReceipt('wd-terms-4.xml', 'full'),
      (r) => r !== undefined,
    );
    const shelf = await open().readShelf(null);
    expect(shelf.lines).toEqual([
      { sku: 'PAN-1', site: undefined, number: 'W1', state: 'declined', reason: 'a & b', shows: {} },
    ]);
    expect(await open().readShelf(shelf.cursor)).toEqual({ cursor: shelf.cursor, lines: [] });
    expect(await readWholeShelf(open())).toHaveLength(1);
  });
  it('is looked through by words', async () => {
    const found = await open().find('sadaf teapot');
    expect(found).toEqual([
      expect.objectContaining({ number: 'W900001', brand: 'Sadaf', identifier: '9529990000018' }),
    ]);
    expect(await open().find('nothing of this')).toEqual([]);
  });
  it('has no page that we know of', () => {
    expect(linkToEntry(at(home()), 'W1')).toBeNull();
  });
});

describe('who is at the other end', () => {
  it('is noted at the first visit, as OpenSSH writes it', async () => {
    const noted: string[] = [];
    const gate = { ...openFreeGate(seller.password), keepHost: (f: string) => Promise.resolve(void noted.push(f)) };
    await open(gate).readShelf(null);
    expect(noted).toEqual([fingerprint()]);
    await open(openFreeGate(seller.password, fingerprint())).readShelf(null);
  });
  it('that shows another key than before is told nothing', async () => {
    let asked = 0;
    const gate: Gate = {
      ...openFreeGate(seller.password, 'SHA256:other'),
      keepHost: () => Promise.resolve(void asked++),
    };
    await expect(open(gate).submit(file('wd-terms-5.xml'))).rejects.toMatchObject({
      code: 'market-unreachable',
      about: { notTaken: true },
      message: expect.stringContaining('another key than before') as string,
    });
    expect([asked, files().filter((f) => f.startsWith('/in/'))]).toEqual([0, []]);
  });
  it('lets us in by a key pair once its public half lies at the desk, and by no other pair', async () => {
    const [ours, other] = [makePrivateKey(), makePrivateKey()];
    await expect(open(openFreeGate(ours)).readShelf(null)).rejects.toMatchObject({ about: { notTaken: true } });
    const leave = (line: string, headers: Record<string, string> = {}) =>
      fetch(`http://127.0.0.1:${port}/desk`, {
        method: 'POST',
        body: new URLSearchParams({ keys: `# ours\n${line}` }),
        headers,
      });
    expect((await leave(readPublicKey(other)!, { Origin: 'http://elsewhere.example' })).status).toBe(403);
    expect(await (await leave(readPublicKey(ours)!)).text()).toContain(readPublicKey(ours)!);
    expect(await open(openFreeGate(ours)).submit(file('wd-terms-7.xml'))).toBe('wd-terms-7.xml');
    await expect(open(openFreeGate(other)).readShelf(null)).rejects.toMatchObject({ about: { notTaken: true } });
    // The password goes on being known.
    await open().readShelf(null);
  });
  it.each([
    ['the key', 'wrong', seller.user],
    ['the name', seller.password, 'stranger'],
  ])('that does not know %s has taken nothing', async (_, password, user) => {
    await expect(
      open(openFreeGate(password), { ...home(), user }).submit(file('wd-terms-6.xml')),
    ).rejects.toMatchObject({
      code: 'market-unreachable',
      about: { notTaken: true, remedy: expect.stringContaining('Connection') as string },
    });
  });
  it.each([
    ['no name', { url: 'sftp://127.0.0.1:9' }, /no name that it knows us by/],
    ['no address', { user: 'x' }, /no address/],
    ['nobody there', { url: 'sftp://127.0.0.1:1', user: 'x' }, /cannot be reached/],
  ])('with %s only delays', async (_, connection, says) => {
    await expect(open(openFreeGate('k'), connection).readShelf(null)).rejects.toMatchObject({
      code: 'market-unreachable',
      about: { notTaken: true },
      message: expect.stringMatching(says) as string,
    });
  });
  it('drops the connection: it only delays, and the next try is the same submission', async () => {
    market.moods.failNext = 1;
    await expect(open().submit(file('wd-terms-7.xml'))).rejects.toMatchObject({ code: 'market-unreachable' });
    expect(await open().submit(file('wd-terms-7.xml'))).toBe('wd-terms-7.xml');
  });
});

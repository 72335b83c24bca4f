// How a market is reached, as its rulebook says: what is taken, and what is refused with the path of the fault.
import { describe, expect, it } from 'vitest';
import { smallDocument } from '../tests/builders';
import { parseRulebook } from '.';

type Loose = Record<string, unknown>;
const faultsOf = (change: (d: Loose) => void): string[] => {
  const reading = parseRulebook(
    smallDocument((d) => {
      change(d as unknown as Loose);
    }),
  );
  return reading.ok ? [] : reading.faults.map((f) => f.path);
};
const found = { in: 'body', pattern: '(?<found>\\d+)' };
const http = {
  kind: 'http',
  submit: { path: '/in', ticket: { json: 'ticket' } },
  answer: { path: '/out/{ticket}', until: { json: 'whole', is: 'true' } },
  shelf: { path: '/shelf', cursor: found },
  page: '/p/{number}',
};
const sftp = {
  kind: 'sftp',
  submit: { folder: 'in' },
  answer: { folder: 'out', name: '{stem}.xml', aside: 'out/read' },
  shelf: { file: 'lists/standing.xml' },
};
const withTransport = (transport: object) => (d: Loose) => {
  d['transport'] = transport;
};
const named = (d: Loose) => {
  for (const f of d['forms'] as Loose[]) f['fileName'] = 'file-{id}.txt';
};

describe('over HTTP', () => {
  it('an answer may say when it is whole, and come in pages, to a seller known by a key, within a quota', () => {
    expect(
      faultsOf(
        withTransport({
          ...http,
          login: { kind: 'bearer' },
          quota: { seconds: 60, requests: 10, records: 100_000 },
          answer: { ...http.answer, pages: { path: '/out/{ticket}?from={next}', next: { json: 'next' } } },
        }),
      ),
    ).toEqual([]);
  });
  it.each([
    ['nothing says when an answer is waited for', { ...http, answer: { path: '/out' } }, 'transport.answer'],
    [
      'a file may be larger than the quota lets through',
      { ...http, quota: { seconds: 1, requests: 1, records: 10 } },
      'forms[0].maxRecords',
    ],
    ['a quota of nothing', { ...http, quota: { seconds: 0, requests: 1 } }, 'transport.quota.seconds'],
    ['a key in the document', { ...http, login: { kind: 'bearer', key: 'secret' } }, 'transport.login'],
    ['a path that leaves the address', { ...http, page: '//elsewhere.example/{number}' }, 'transport.page'],
  ])('is refused where %s', (_, transport, path) => {
    expect(faultsOf(withTransport(transport))).toContain(path);
  });
  it.each(['a b', 'a..b', '.a', ''])('finds nothing at “%s”, which is no path', (json) => {
    expect(faultsOf(withTransport({ ...http, submit: { path: '/in', ticket: { json } } }))).not.toEqual([]);
  });
});

describe('over SFTP', () => {
  it('files have names of their own, and folders under the one that the person entered', () => {
    expect(
      faultsOf((d) => {
        withTransport(sftp)(d);
        named(d);
      }),
    ).toEqual([]);
  });
  it('is refused where two files may have one name', () => {
    expect(faultsOf(withTransport(sftp))).toContain('forms[0].fileName');
  });
  it.each<[string, object, string]>([
    ['a folder above', { ...sftp, submit: { folder: '../in' } }, 'transport.submit.folder'],
    ['a folder from the root', { ...sftp, submit: { folder: '/in' } }, 'transport.submit.folder'],
    ['a file above', { ...sftp, shelf: { file: 'lists/../../x' } }, 'transport.shelf.file'],
    [
      'an answer that is not told by its file',
      { ...sftp, answer: { folder: 'out', name: 'answer.xml' } },
      'transport.answer.name',
    ],
    [
      'an answer in another folder',
      { ...sftp, answer: { folder: 'out', name: '../{stem}.xml' } },
      'transport.answer.name',
    ],
  ])('is refused where it names %s', (_, transport, path) => {
    expect(
      faultsOf((d) => {
        withTransport(transport)(d);
        named(d);
      }),
    ).toContain(path);
  });
});

describe('money that is one in all', () => {
  it('comes from our price in the currency of the first site', () => {
    const fromOf = (currency: string): string | undefined => {
      const reading = parseRulebook(
        smallDocument((d) => {
          const { sites, attributes } = d as unknown as { sites: { currency: string }[]; attributes: Loose[] };
          sites[0]!.currency = currency;
          attributes.find((a) => a['key'] === 'price')!['from'] = 'price';
        }),
      );
      return reading.ok ? reading.rulebook.attributes.find((a) => a.key === 'price')!.from : 'faulty';
    };
    expect([fromOf('GBP'), fromOf('USD'), fromOf('KWD')]).toEqual(['price', 'fact.price@usd', 'fact.price@kwd']);
  });
});

it('a site is in a time zone that there is', () => {
  expect(
    faultsOf((d) => {
      (d['sites'] as Loose[])[0]!['timeZone'] = 'Mars/Olympus';
    }),
  ).toEqual(['sites[0].timeZone']);
});

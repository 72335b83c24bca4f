// What a test does with one market of a house: looks at its items, changes them, sends them, reads what came of it.
import { expect } from 'vitest';
import { watchShelf } from '../dispatches';
import { type House, until } from './house';

export interface Dispatch {
  id: number;
  state: string;
  total: number;
  accepted: number;
  refused: number;
  fault: string | null;
  fileName: string;
}
export interface Line {
  line: number;
  listingId: number;
  sku: string;
  site: string;
  state: string;
  code: string;
  field: string;
  more: { code: string; field: string }[];
}
export interface Item {
  id: number;
  sku: string;
  market_state: string;
  version: number;
  product_id: number;
  values: Record<string, string>;
}

/** Where an operation of an item is planned and nothing holds it. */
export const ready = (operation: string): string =>
  `l.in_flight = 0 and l.planned @> '[{"operation": "${operation}", "held": null}]'`;

export function openSending(house: House, market: string) {
  const m = `/markets/${market}`;
  let sendings = 0;
  const loadItems = (where: string, ...bindings: unknown[]) =>
    house.rows<Item>(
      `select l.id, p.sku, l.market_state, l.version, l.product_id, l."values" from listings l
        join products p on p.id = l.product_id join markets m on m.id = l.market_id
        where m.key = '${market}' and ${where} order by p.sku`,
      bindings,
    );
  const build = async (operation: string, ids: readonly number[], by = 'wire') => {
    const r = await house.call<{ dispatch: Dispatch; message?: string }>('POST', `${m}/dispatches`, {
      operation,
      ids,
      looked: true,
      by,
      key: `${market}-test-${++sendings}`,
    });
    expect(r.status, r.body.message).toBe(200);
    return r.body.dispatch;
  };
  const read = async (id: number) => (await house.call<Dispatch>('GET', `/dispatches/${id}`)).body;
  return {
    loadItems,
    build,
    read,
    /** Sends rows and waits until they are answered, or something is wrong. */
    send: async (operation: string, ids: readonly number[]) => {
      const { id } = await build(operation, ids);
      return until(
        () => read(id),
        (d) => d.state === 'answered' || d.fault !== null,
      );
    },
    linesOf: async (id: number) => (await house.call<{ rows: Line[] }>('GET', `/dispatches/${id}/lines`)).body.rows,
    textOf: async (id: number) => (await fetch(`${house.base}/api/dispatches/${id}/file`)).text(),
    patch: (id: number, field: string, before: string | null, after: string | null) =>
      house.call('PATCH', `${m}/listings`, { cells: [{ id, field, before, after }] }),
    /** Has the market's shelf looked at soon; as requests and jobs are, it is done again where it was a deadlock's victim. */
    look: async (): Promise<void> => {
      for (;;)
        try {
          await watchShelf(house.db, market);
          return;
        } catch (error) {
          if ((error as { code?: string }).code !== '40P01') throw error;
        }
    },
    /** An entry that is live, with nothing to be sent of it. */
    quiet: async (more = 'true'): Promise<Item> => {
      const [item] = await loadItems(
        `l.market_state = 'live' and l.in_flight = 0 and l.planned = '[]' and not l.refusal_open and ${more}
          and not exists (select 1 from standings s where s.listing_id = l.id and s.market_state <> 'live')`,
      );
      return item!;
    },
  };
}

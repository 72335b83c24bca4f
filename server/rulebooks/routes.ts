import {
  compareRulebook,
  listTemplates,
  putRulebook,
  putTemplate,
  readCategorySchema,
  readRulebook,
  readRulebookDocument,
  readRulebookSchema,
  removeTemplate,
} from '@basileus/contract';
import { makeFormatSchema } from '@basileus/core/rulebook';
import type { Router } from 'express';
import type { Db } from '../database';
import { storeFile } from '../files';
import { receiveUpload, route } from '../http';
import type { Threads } from '../jobs';
import { loadMarket, loadTemplates, mostTemplateBytes } from '../markets';
import { forgetTemplate, takeTemplate } from './templates';
import { compareWithForce, describeCategory, loadDocument, putInForce } from './service';

export function addRulebookRoutes(router: Router, db: Db, threads: Threads): void {
  route(
    router,
    readRulebook,
    async ({ params }) => (await loadMarket(db, params.market)).rulebook as unknown as Record<string, unknown>,
  );
  route(router, readRulebookDocument, async ({ params }) => loadDocument(db, await loadMarket(db, params.market)));
  route(router, readRulebookSchema, () => Promise.resolve(makeFormatSchema()));
  route(router, readCategorySchema, async ({ params }) =>
    describeCategory(await loadMarket(db, params.market), params.category),
  );
  route(router, putRulebook, async ({ params, body, actor }) =>
    putInForce(db, await loadMarket(db, params.market), body, actor),
  );
  route(router, listTemplates, async ({ params }) => ({
    rows: (await loadTemplates(db, (await loadMarket(db, params.market)).id)).map((t) => ({
      form: t.form,
      name: t.name,
      sheet: t.sheet,
      firstRow: t.first_row,
      at: t.at.toISOString(),
    })),
  }));
  route(router, putTemplate, async ({ params, query, request, response, actor }) => {
    const { id, name } = await receiveUpload({ request, response }, mostTemplateBytes, async (f) => ({
      id: (await storeFile(db, f.name, f.bytes, mostTemplateBytes)).id,
      name: f.name,
    }));
    const said = {
      ...(query.sheet === '' ? {} : { sheet: query.sheet }),
      ...(query.firstRow === 0 ? {} : { firstRow: query.firstRow - 1 }),
    };
    return takeTemplate(db, threads, { market: params.market, form: params.form, file: id, name, said }, actor);
  });
  route(router, removeTemplate, async ({ params, actor }) => {
    await forgetTemplate(db, await loadMarket(db, params.market), params.form, actor);
    return { ok: true as const };
  });
  route(router, compareRulebook, async ({ params, body }) =>
    compareWithForce(await loadMarket(db, params.market), body),
  );
}

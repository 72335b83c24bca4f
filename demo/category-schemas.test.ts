// The format and every category as JSON Schema, read by ajv: what our checks let go is right by the schema too, what lacks a
// field that must be there is wrong by it, and every rulebook that ships has the form of the format.
import { prepareChecks } from '@basileus/core/checks';
import { compileCategory, listLeaves, makeCategorySchema, makeFormatSchema } from '@basileus/core/rulebook';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020';
import formats from 'ajv-formats';
import { describe, expect, it } from 'vitest';
import { demoMarkets } from './markets';
import { openJudgedMarket } from './tests/market';

const ajv = new Ajv2020({ strict: false, allErrors: true });
(formats as unknown as (a: Ajv2020) => void)(ajv);

describe('the format', () => {
  const validate = ajv.compile(makeFormatSchema());
  it.each(demoMarkets.map((m) => [m.key, m.document] as const))('has the form of the rulebook of %s', (_, document) => {
    validate(document);
    expect(validate.errors ?? []).toEqual([]);
  });
  it('does not have that of a document with a slip of the pen', () => {
    expect(validate({ ...(demoMarkets[1]!.document as object), fee: [] })).toBe(false);
    expect(validate({ ...(demoMarkets[1]!.document as object), tree: 'none' })).toBe(false);
  });
  it('is the file in docs', async () => {
    await expect(`${JSON.stringify(makeFormatSchema(), null, 2)}\n`).toMatchFileSnapshot(
      '../docs/rulebook.schema.json',
    );
  });
});

describe.each(demoMarkets.map((m) => [m.key] as const))('the categories of %s', (key) => {
  const { book, listings } = openJudgedMarket(key, new Set());
  const schemas = new Map<string, ValidateFunction>(
    listLeaves(book).map((l) => [l.key, ajv.compile(makeCategorySchema(book, compileCategory(book, l.key)!))]),
  );
  const judged = listings.map((l) => {
    const findings = prepareChecks(compileCategory(book, l.category)!)(l).filter((f) => f.level === 'blocker');
    const validate = schemas.get(l.category)!;
    const isRight = validate(l.values);
    return { l, findings, isRight, errors: isRight ? [] : (validate.errors ?? []) };
  });
  it('are right for every listing that our checks let go', () => {
    const good = judged.filter((j) => j.findings.length === 0);
    expect(good.length).toBeGreaterThan(400);
    expect(
      good.flatMap((j) => j.errors.map((e) => `${j.l.sku} ${e.instancePath} ${e.message ?? ''}`)).slice(0, 8),
    ).toEqual([]);
  });
  it('are wrong for every listing that lacks a field that must be there', () => {
    const lacking = judged.filter((j) =>
      j.findings.some((f) => f.check === 'demanded-missing' && f.message === 'must'),
    );
    expect(lacking.length).toBeGreaterThan(20);
    for (const { l, findings, errors } of lacking)
      for (const f of findings.filter((x) => x.check === 'demanded-missing' && x.message === 'must'))
        expect(
          errors.some((e) => (e.params as { missingProperty?: string }).missingProperty === f.field),
          `${l.sku} lacks ${f.field}`,
        ).toBe(true);
  });
});

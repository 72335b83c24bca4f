import { listOperations, operationNames, prepareChange } from '@basileus/core/change';
import { compileFields, firstFields } from '@basileus/core/product';
import { describe, expect, it } from 'vitest';
import { moveStep, operationWords, readSteps, startOperation, startStep, writeSteps } from './operation';

const book = compileFields(firstFields);
const fieldOf = (key: string) => book.get(key)!;

describe('a step that begins', () => {
  it('is the likeliest change of its field', () => {
    expect(
      ['price', 'stock', 'highlights', 'brand', 'fact.width'].map((k) => startStep(fieldOf(k)).operation.do),
    ).toEqual(['raise', 'set', 'add', 'set', 'set']);
  });
  it('can be done to its field, whatever that is, and has words', () => {
    const fields = book.all.filter((f) => listOperations(f).length > 0);
    expect(fields.length).toBeGreaterThan(30);
    expect(fields.filter((f) => !listOperations(f).includes(startStep(f).operation.do))).toEqual([]);
    expect(operationNames.filter((n) => operationWords[n] === '' || startOperation(n).do !== n)).toEqual([]);
  });
  it('says nothing yet, which is told', () => {
    expect(prepareChange([startStep(fieldOf('price'))], book)).toMatchObject({
      ok: false,
      problem: { is: 'nothing-given' },
    });
  });
  it('keeps its change when it is put on a field that can have it', () => {
    const raised = { field: 'price', operation: { do: 'raise' as const, by: 'percent' as const, of: '5' } };
    expect(moveStep(raised, fieldOf('cost'))).toEqual({ ...raised, field: 'cost' });
    expect(moveStep(raised, fieldOf('brand'))).toEqual({ field: 'brand', operation: { do: 'set', value: '' } });
    // A value of one field is seldom that of another.
    expect(moveStep({ field: 'brand', operation: { do: 'set', value: 'Pellow' } }, fieldOf('mpn')).operation).toEqual({
      do: 'set',
      value: '',
    });
  });
});

describe('steps in an address', () => {
  it('come back as they were', () => {
    const steps = [
      { field: 'price', operation: { do: 'formula' as const, formula: 'ending([Price] * 85%, .99) & ""' } },
    ];
    expect(readSteps(writeSteps(steps))).toEqual(steps);
    expect(writeSteps([])).toBe('');
  });
  it.each(['', 'x', '{}', '[{"field":"price"}]', '[{"field":"price","operation":{"do":"double"}}]'])(
    'are none where it holds %j',
    (text) => {
      expect(readSteps(text)).toEqual([]);
    },
  );
});

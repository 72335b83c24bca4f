// Steps of a bulk change while they are being written.
import type { ChangeOperation, ChangeStep, OperationName } from '@basileus/core/change';
import { changeSteps, listOperations } from '@basileus/core/change';
import type { ProductField } from '@basileus/core/product';
import { say } from '../ui/text';

/** What each operation is called behind the name of its field. */
export const operationWords: Readonly<Record<OperationName, string>> = {
  set: 'becomes',
  clear: say`is emptied`,
  raise: say`goes up or down by`,
  leave: say`leaves a margin of`,
  round: say`is rounded to the ending`,
  formula: say`is worked out as`,
  copy: say`takes over`,
  read: say`is read from the texts`,
  rewrite: say`has a text replaced`,
  add: say`gets the entries`,
  remove: say`loses the entries`,
  swap: say`has an entry replaced`,
  number: say`is numbered`,
  follow: say`is as the catalog has it`,
};

/** An operation as it begins, nothing said yet. */
export function startOperation(name: OperationName): ChangeOperation {
  switch (name) {
    case 'set':
      return { do: 'set', value: '' };
    case 'clear':
      return { do: 'clear' };
    case 'raise':
      return { do: 'raise', by: 'percent', of: '' };
    case 'leave':
      return { do: 'leave', margin: '', ending: '' };
    case 'round':
      return { do: 'round', ending: '.99', way: 'up' };
    case 'formula':
      return { do: 'formula', formula: '' };
    case 'copy':
      return { do: 'copy', from: '' };
    case 'read':
      return { do: 'read', words: [], alone: false };
    case 'rewrite':
      return { do: 'rewrite', find: '', by: '', exactCase: false, wholeWords: false };
    case 'add':
    case 'remove':
      return { do: name, items: [] };
    case 'swap':
      return { do: 'swap', from: '', to: '' };
    case 'number':
      return { do: 'number', pattern: '', start: 1, step: 1 };
    case 'follow':
      return { do: 'follow' };
  }
}

/** The likeliest change of a field: amounts are raised, lists get entries, the rest becomes something. */
export const startStep = (field: ProductField): ChangeStep => {
  const can = listOperations(field);
  const first = can.includes('raise') && field.key !== 'stock' ? 'raise' : can.includes('add') ? 'add' : 'set';
  return { field: field.key, operation: startOperation(first) };
};

/** Finding and replacing in a field: in its text, or entry by entry; what holds neither begins as it likeliest would. */
export function startRewrite(field: ProductField): ChangeStep {
  const can = listOperations(field);
  const name = (['rewrite', 'swap'] as const).find((n) => can.includes(n));
  return name ? { field: field.key, operation: startOperation(name) } : startStep(field);
}

/** The same change of another field where it can be done there. */
export const moveStep = (step: ChangeStep, field: ProductField): ChangeStep =>
  listOperations(field).includes(step.operation.do) && step.operation.do !== 'set'
    ? { ...step, field: field.key }
    : startStep(field);

/** Steps as an address holds them; none where it holds something else. */
export const writeSteps = (steps: readonly ChangeStep[]): string => (steps.length === 0 ? '' : JSON.stringify(steps));
export function readSteps(text: string): ChangeStep[] {
  if (text === '') return [];
  try {
    const read = changeSteps.safeParse(JSON.parse(text));
    return read.success ? read.data : [];
  } catch {
    return [];
  }
}

import type { SampleItem } from '@basileus/contract';
import { type ChangeOperation, type ChangeStep, isChangedInBulk, listOperations } from '@basileus/core/change';
import type { FieldBook } from '@basileus/core/product';
import { X } from 'lucide-react';
import { FieldSelect } from '../own/FieldSelect';
import { moveStep, operationWords, startOperation } from './operation';
import { OperationForm } from './OperationForm';
import { say } from '../ui/text';

/** One step of a change: a field, what is done to it, and with what. */
export function StepForm({
  step,
  book,
  categories,
  samples,
  problem,
  onChange,
  onDrop,
}: {
  step: ChangeStep;
  book: FieldBook;
  categories: readonly string[];
  samples: readonly SampleItem[];
  /** What is wrong with it, in words; a formula says that itself. */
  problem: string | undefined;
  onChange: (step: ChangeStep) => void;
  onDrop: () => void;
}) {
  const field = book.get(step.field);
  const { operation } = step;
  const put = (operation: ChangeOperation) => {
    onChange({ ...step, operation });
  };
  return (
    <li className="panel flex flex-col gap-2 p-3">
      <div className="flex items-center gap-2">
        <FieldSelect
          label={say`Field that is changed`}
          className="min-w-0 flex-1 font-semibold"
          value={step.field}
          fields={book.all.filter((f) => f.market === field?.market && isChangedInBulk(f))}
          onChoose={(key) => {
            onChange(moveStep(step, book.get(key)!));
          }}
        />
        <select
          className="select select-sm min-w-0 flex-1"
          aria-label={say`What is done to it`}
          value={operation.do}
          onChange={(e) => {
            put(startOperation(e.target.value as ChangeOperation['do']));
          }}
        >
          {(field ? listOperations(field) : [operation.do]).map((name) => (
            <option key={name} value={name}>
              {operationWords[name]}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="btn btn-ghost btn-sm btn-square"
          aria-label={say`Take this change out`}
          onClick={onDrop}
        >
          <X size={14} />
        </button>
      </div>
      {field && (
        <OperationForm
          key={`${step.field} ${operation.do}`}
          operation={operation}
          field={field}
          book={book}
          categories={categories}
          samples={samples}
          onChange={put}
        />
      )}
      {problem && operation.do !== 'formula' && <p className="text-xs text-error">{problem}</p>}
    </li>
  );
}

import { toCode } from '@basileus/core/choose';
import type { ProductField } from '@basileus/core/product';
import { ListPicker } from '../ui/ListPicker';
import { Box, Lines } from './inputs';
import { say } from '../ui/text';

/** One value for all, in the shape of its field. */
export function SetValue({
  field,
  categories,
  value,
  onChange,
}: {
  field: ProductField;
  categories: readonly string[];
  value: string | string[];
  onChange: (value: string | string[]) => void;
}) {
  const text = typeof value === 'string' ? value : value.join('\n');
  if (field.kind === 'list')
    return (
      <Lines
        label={say`Entries, one a line`}
        items={(typeof value === 'string' ? (value === '' ? [] : [value]) : value).map((v) => field.words?.[v] ?? v)}
        onChange={onChange}
      />
    );
  if (field.kind === 'long-text')
    return (
      <textarea
        className="textarea textarea-sm min-h-0 w-full"
        rows={4}
        aria-label={say`Value`}
        value={text}
        onChange={(e) => {
          onChange(e.target.value);
        }}
      />
    );
  if (field.words)
    return (
      <ListPicker
        label={say`Value`}
        width="w-full"
        options={Object.entries(field.words).map(([code, label]) => ({ code, label }))}
        value={toCode(field, text)}
        onChoose={onChange}
      />
    );
  const options = field.key === 'category' ? categories : field.kind === 'yes-no' ? ['yes', 'no'] : field.values;
  return (
    <div className="flex">
      <Box
        label={say`Value`}
        placeholder={field.kind === 'measure' ? say`such as 24 ${field.unit ?? 'cm'}` : ''}
        type={field.kind === 'date' ? 'date' : 'text'}
        isNumber={field.kind === 'money' || field.kind === 'integer' || field.kind === 'number'}
        value={text}
        options={options}
        onChange={onChange}
      />
    </div>
  );
}

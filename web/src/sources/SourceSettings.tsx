import type { SourceShape } from '@basileus/contract';
import { ScheduleField } from '../ui/ScheduleField';
import { when, say } from '../ui/text';
import { tell } from '../ui/tell';

export const toDraft = ({
  name,
  way,
  address,
  decimalSign,
  sinceParam,
  rules,
  mode,
  schedule,
  holdPercent,
}: SourceShape) => ({
  name,
  way,
  address,
  decimalSign,
  sinceParam,
  rules,
  mode,
  schedule,
  holdPercent,
});
export type Draft = ReturnType<typeof toDraft>;

/** When it is asked, what of it is taken, and when somebody has to look first. */
export function When({ draft, source, onChange }: { draft: Draft; source: SourceShape; onChange: (d: Draft) => void }) {
  return (
    <section className="flex flex-col gap-2">
      <h2 className="text-lg">{say`When`}</h2>
      <ScheduleField
        schedule={draft.schedule}
        what={say`brought in`}
        onChange={(schedule) => {
          onChange({ ...draft, schedule });
        }}
      />
      {source.nextAt && <p className="quiet text-xs">{tell`next ${when(source.nextAt)}`}</p>}
      {draft.schedule && (
        <label className="flex flex-wrap items-center gap-2">
          {say`Waits for a look where more than`}
          <input
            className="input input-sm num w-16"
            type="number"
            min={0}
            max={100}
            value={draft.holdPercent}
            onChange={(e) => {
              onChange({ ...draft, holdPercent: Math.min(100, Math.max(0, Number(e.target.value) || 0)) });
            }}
          />
          {say`% of the rows change something`}
        </label>
      )}
      <select
        className="select select-sm"
        aria-label={say`What is taken`}
        value={draft.mode}
        onChange={(e) => {
          onChange({ ...draft, mode: e.target.value as Draft['mode'] });
        }}
      >
        <option value="both">{say`new items, and changes of those we have`}</option>
        <option value="update">{say`only changes of items we have`}</option>
        <option value="create">{say`only new items`}</option>
      </select>
    </section>
  );
}

/** Where it is, and the key that it knows us by. */
export function Connection({
  draft,
  hasKey,
  newKey,
  onChange,
  onKey,
  onRemove,
}: {
  draft: Draft;
  hasKey: boolean;
  newKey: string;
  onChange: (d: Draft) => void;
  onKey: (key: string) => void;
  onRemove: () => void;
}) {
  return (
    <section className="flex flex-col gap-2">
      <h2 className="text-lg">{say`Connection`}</h2>
      <Line
        label={say`Name`}
        value={draft.name}
        onChange={(name) => {
          onChange({ ...draft, name });
        }}
      />
      <Line
        label={say`Address`}
        value={draft.address}
        onChange={(address) => {
          onChange({ ...draft, address });
        }}
      />
      {draft.way === 'pages' && (
        <Line
          label={say`Parameter that asks for what has changed since`}
          value={draft.sinceParam}
          placeholder={say`none: all rows each time`}
          onChange={(sinceParam) => {
            onChange({ ...draft, sinceParam });
          }}
        />
      )}
      <label className="block">
        <span className="quiet text-xs">{hasKey ? say`Another key; the one that is kept is not shown` : say`Key`}</span>
        <input
          className="input input-sm num w-full"
          type="password"
          autoComplete="off"
          value={newKey}
          onChange={(e) => {
            onKey(e.target.value);
          }}
        />
      </label>
      <button type="button" className="btn btn-sm btn-ghost self-start text-error" onClick={onRemove}>
        {say`Connect it no more`}
      </button>
    </section>
  );
}

const Line = ({
  label,
  value,
  placeholder,
  onChange,
}: {
  label: string;
  value: string;
  placeholder?: string;
  onChange: (value: string) => void;
}) => (
  <label className="block">
    <span className="quiet text-xs">{label}</span>
    <input
      className="input input-sm w-full"
      value={value}
      placeholder={placeholder}
      onChange={(e) => {
        onChange(e.target.value);
      }}
    />
  </label>
);

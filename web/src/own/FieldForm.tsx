import { changeField, createField, orderFields } from '@basileus/contract';
import {
  getLanguageName,
  ownFieldKinds,
  type OwnField,
  type OwnFieldKind,
  type OwnFields,
  toFlatKey,
} from '@basileus/core/product';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call, CallError } from '../api/call';
import { toast } from '../ui/messages';
import { plural, say } from '../ui/text';
import { type Draft, fromDraft, kindNames, moveKey, takesLanguage, takesValues } from './draft';
import { FieldCategories } from './FieldCategories';
import { Line, Tick } from './FormLine';
import { fieldUseQuery } from './queries';
import { RemoveField } from './RemoveField';
import { tell } from '../ui/tell';

/** One field: what it is called, what it holds, which items have it. */
export function FieldForm({
  draft: first,
  own,
  onClose,
}: {
  draft: Draft;
  own: OwnFields;
  /** With the key of the field that is shown next, none where it is empty; and the field that was kept. */
  onClose: (next: string, kept?: Pick<OwnField, 'key' | 'language'>) => void;
}) {
  const client = useQueryClient();
  const [draft, setDraft] = useState(first),
    [isRemoving, setRemoving] = useState(false);
  const isNew = first.key === '';
  const use = useQuery(fieldUseQuery(first.key)).data;
  const set = (part: Partial<Draft>) => {
    setDraft((d) => ({ ...d, ...part }));
  };
  const refresh = () => client.invalidateQueries({ queryKey: ['own'] });
  const keep = useMutation({
    mutationFn: () =>
      isNew
        ? call(createField, { body: { ...fromDraft(draft), by: draft.by, language: draft.language } })
        : call(changeField, { params: { key: first.key }, body: fromDraft(draft) }),
    onSuccess: async (made) => {
      await refresh();
      toast.success(isNew ? say`${made.label} is a column of the catalog now.` : say`${made.label} is kept.`);
      onClose(made.key, made);
    },
  });
  const move = useMutation({
    mutationFn: (by: -1 | 1) => call(orderFields, { body: { keys: moveKey(own.fields, first.key, by) } }),
    onSuccess: refresh,
    onError: (e) => toast.error(e.message),
  });
  const refusal = keep.error instanceof CallError ? keep.error.body : undefined;
  const groups = [...new Set(own.fields.map((f) => f.group))];
  return (
    <form
      className="flex flex-col gap-3 p-5"
      aria-label={isNew ? say`A new field` : say`Field ${first.label}`}
      onSubmit={(e) => {
        e.preventDefault();
        keep.mutate();
      }}
    >
      <h2 className="text-lg">{isNew ? say`A new field` : first.label}</h2>
      <Line label={say`Label`}>
        <input
          className="input input-sm w-full"
          value={draft.label}
          required
          maxLength={60}
          data-first={isNew || undefined}
          autoFocus={isNew}
          aria-invalid={refusal?.field === 'label'}
          onChange={(e) => {
            set({ label: e.target.value });
          }}
        />
      </Line>
      <div className="grid grid-cols-2 gap-3">
        <Line label={say`Holds`}>
          <select
            className="select select-sm w-full"
            value={draft.kind}
            aria-invalid={refusal?.field === 'kind'}
            onChange={(e) => {
              const kind = e.target.value as OwnFieldKind;
              set({
                kind,
                ...(isNew && draft.by === 'currency' && kind !== 'money' ? { by: null } : {}),
                ...(isNew && draft.by === 'language' && !takesLanguage(kind) ? { by: null } : {}),
                ...(isNew && !takesLanguage(kind) ? { language: null } : {}),
              });
            }}
          >
            {ownFieldKinds.map((k) => (
              <option key={k} value={k}>
                {kindNames[k]}
              </option>
            ))}
          </select>
        </Line>
        <Line label={say`Group`}>
          <input
            className="input input-sm w-full"
            list="field-groups"
            value={draft.group}
            maxLength={60}
            onChange={(e) => {
              set({ group: e.target.value });
            }}
          />
          <datalist id="field-groups">
            {groups.map((g) => (
              <option key={g} value={g} />
            ))}
          </datalist>
        </Line>
        {draft.kind === 'measure' && (
          <Line label={say`Unit, where none is written`}>
            <input
              className="input input-sm w-full"
              placeholder={say`such as cm`}
              value={draft.unit ?? ''}
              aria-invalid={refusal?.field === 'unit'}
              onChange={(e) => {
                set({ unit: e.target.value === '' ? null : e.target.value });
              }}
            />
          </Line>
        )}
        {isNew && (takesLanguage(draft.kind) || draft.kind === 'money') && (
          <Line label={say`Kept`}>
            <select
              className="select select-sm w-full"
              value={draft.by ?? draft.language ?? ''}
              onChange={(e) => {
                const v = e.target.value;
                set({
                  by: v === 'language' || v === 'currency' ? v : null,
                  language: own.languages.includes(v) ? v : null,
                });
              }}
            >
              <option value="">{say`once`}</option>
              {draft.kind === 'money' ? (
                <option value="currency">{say`in each currency`}</option>
              ) : (
                <>
                  <option value="language">{say`in each language`}</option>
                  {own.languages.map((l) => (
                    <option key={l} value={l}>
                      {tell`in ${getLanguageName(l)} only`}
                    </option>
                  ))}
                </>
              )}
            </select>
          </Line>
        )}
      </div>
      {takesValues(draft.kind) && (
        <Line label={say`Values to choose from, one a line; anything where there are none`}>
          <textarea
            className="textarea textarea-sm min-h-0 w-full"
            rows={draft.values === '' ? 2 : 6}
            value={draft.values}
            aria-invalid={refusal?.field === 'values'}
            onChange={(e) => {
              set({ values: e.target.value });
            }}
          />
        </Line>
      )}
      <Line label={say`What other people’s files call it, one a line`}>
        <textarea
          className="textarea textarea-sm min-h-0 w-full"
          rows={2}
          value={draft.names}
          aria-invalid={refusal?.field === 'names'}
          onChange={(e) => {
            set({ names: e.target.value });
          }}
        />
      </Line>
      <FieldCategories
        chosen={draft.categories}
        onChange={(categories) => {
          set({ categories });
        }}
      />
      <Tick
        label={say`Variants of a family may differ by it`}
        on={draft.axis}
        onChange={(axis) => {
          set({ axis });
        }}
      />
      {takesValues(draft.kind) && (
        <Tick
          label={say`Many items share its values: an import points a new one out`}
          on={draft.shared}
          onChange={(shared) => {
            set({ shared });
          }}
        />
      )}
      <Tick
        label={say`Only for what is sold, not for the row of a family`}
        on={draft.rows === 'sellable'}
        onChange={(on) => {
          set({ rows: on ? 'sellable' : 'all' });
        }}
      />
      {refusal && (
        <p role="alert" className="text-error">
          {refusal.message} {refusal.remedy}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <button type="submit" className="btn btn-sm btn-primary" disabled={keep.isPending}>
          {isNew ? say`Add it` : say`Keep`}
        </button>
        {!isNew && (
          <>
            <button
              type="button"
              className="btn btn-sm"
              disabled={move.isPending}
              onClick={() => {
                move.mutate(-1);
              }}
            >
              {say`Further up`}
            </button>
            <button
              type="button"
              className="btn btn-sm"
              disabled={move.isPending}
              onClick={() => {
                move.mutate(1);
              }}
            >
              {say`Further down`}
            </button>
            <button
              type="button"
              className="btn btn-sm ms-auto"
              onClick={() => {
                setRemoving(true);
              }}
            >
              {say`Remove …`}
            </button>
          </>
        )}
      </div>
      {use && (
        <p className="text-xs quiet">
          {tell`${plural(use.items, 'item holds it', 'items hold it')}${use.markets.length > 0 && say`; ${use.markets.join(', ')} takes it by the table of fields`}. Rulebooks name it ${(<span className="num">{toFlatKey(first)}</span>)}.`}
        </p>
      )}
      {isRemoving && (
        <RemoveField
          field={first}
          items={use?.items ?? 0}
          onClose={() => {
            setRemoving(false);
          }}
          onGone={() => {
            setRemoving(false);
            onClose('');
          }}
        />
      )}
    </form>
  );
}

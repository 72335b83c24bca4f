import type { ListingRow } from '@basileus/contract';
import { isFilled, type Value } from '@basileus/core/listing';
import type { Rulebook, RulebookAttribute } from '@basileus/core/rulebook';
import { useMutation } from '@tanstack/react-query';
import { saveCells } from '../saving/saving';
import { toCellText, toCellValue } from '../table/columns';
import { DemandNotch, LevelMark } from '../ui/demand';
import { inLanguage } from '../ui/language';
import { count, shown, say } from '../ui/text';
import { useState } from 'react';
import { wordingOf } from '../words/findings';
import { wordFinding } from '@basileus/core/checks';
import { toGridColumn } from './columns';
import { LeftOver, UnitPrice } from './LeftOver';
import { measureText } from './measure';
import { PictureStrip } from './PictureStrip';
import { useFields } from '../own/fields';
import { ToldValue } from './ToldValue';
import { wordOrigin } from './ListingsTable';
import { tell } from '../ui/tell';

/** Id of the input of a field, for what leads to it. */
export const fieldId = (attribute: string): string => `field-${attribute}`;

/** One field of a listing: its value, what is wrong with it, and where it comes from. It is saved when it is left. */
export function FieldLine({
  market,
  listing,
  attribute,
  rulebook,
}: {
  market: string;
  listing: ListingRow;
  attribute: RulebookAttribute;
  rulebook: Rulebook;
}) {
  const { labelOf } = useFields();
  const column = toGridColumn(rulebook, attribute, listing.levels[attribute.key]);
  const value = (listing.values[attribute.key] as Value | undefined) ?? null;
  const text = toCellText(column, value);
  const wording = wordingOf(rulebook);
  const findings = listing.findings.filter((f) => f.field === attribute.key);
  const save = useMutation({
    mutationFn: (v: { after: Value | null; reset?: boolean }) =>
      saveCells(
        `listings:${market}`,
        [{ id: listing.id, field: attribute.key, before: value, after: v.after, ...(v.reset ? { reset: true } : {}) }],
        '',
      ),
  });
  const put = (t: string) => {
    const after = toCellValue(column, t);
    if (shown(after) !== shown(value)) save.mutate({ after });
  };
  const [written, setWritten] = useState(text);
  const room = measureText(attribute, written);
  const isFamilyAxis = listing.role === 'parent' && listing.axes.includes(attribute.key);
  const isAsked = !isFamilyAxis && (column.level === 'must' || column.level === 'should');
  const isTyped = listing.origins[attribute.key]?.from === 'typed';
  const worst = findings.find((f) => f.level === 'blocker') ?? findings.find((f) => f.level === 'caution');
  const common = {
    id: fieldId(attribute.key),
    'aria-label': attribute.label,
    'aria-invalid': worst?.level === 'blocker',
    disabled: save.isPending,
    // A text that is in one language in all says by its letters which.
    ...inLanguage(attribute.facet?.language ?? Object.keys(attribute.scripts ?? {})[0]),
  };
  return (
    <div className="grid grid-cols-[11rem_1fr] gap-x-3 py-1.5">
      <div className="flex items-start gap-1.5 pt-1">
        <DemandNotch level={column.level} />
        <span>
          {attribute.label}
          {column.unit && <span className="quiet"> {column.unit}</span>}
        </span>
      </div>
      <div>
        {column.kind === 'choice' || column.kind === 'yes-no' ? (
          <select
            {...common}
            className="select select-sm w-full"
            value={typeof value === 'string' ? value : ''}
            onChange={(e) => {
              save.mutate({ after: e.target.value || null });
            }}
          >
            <option value="" />
            {typeof value === 'string' && value && !column.options?.some((o) => o.code === value) && (
              <option value={value}>{tell`${value} (not on the list)`}</option>
            )}
            {column.options?.map((o) => (
              <option key={o.code} value={o.code}>
                {o.label}
              </option>
            ))}
          </select>
        ) : attribute.type === 'html' || attribute.type === 'long-text' ? (
          <textarea
            {...common}
            key={text}
            className="textarea textarea-sm field-sizing-content max-h-96 min-h-16 w-full"
            defaultValue={text}
            onInput={(e) => {
              setWritten(e.currentTarget.value);
            }}
            onBlur={(e) => {
              put(e.target.value);
            }}
          />
        ) : (
          <input
            {...common}
            key={text}
            className={`input input-sm w-full ${column.mono || column.kind === 'number' ? 'num' : ''}`}
            defaultValue={text}
            onInput={(e) => {
              setWritten(e.currentTarget.value);
            }}
            placeholder={attribute.example}
            onKeyDown={(e) => {
              if (e.key === 'Enter') e.currentTarget.blur();
            }}
            onBlur={(e) => {
              put(e.target.value);
            }}
          />
        )}
        {attribute.type === 'links' && <PictureStrip links={Array.isArray(value) ? value : []} />}
        {!isFilled(value ?? undefined) && isAsked && (
          <ToldValue
            listing={listing}
            attribute={attribute}
            rulebook={rulebook}
            onTake={(after) => {
              save.mutate({ after });
            }}
          />
        )}
        {findings.map((f) => (
          <p key={f.check + f.message} className="mt-1 text-xs">
            <LevelMark level={f.level} bare /> {wordFinding(f, wording)}{' '}
            {f.remedies.map((r, i) =>
              r.kind === 'set' ? (
                <button
                  key={i}
                  type="button"
                  className="btn btn-xs ms-1"
                  onClick={() => {
                    save.mutate({ after: r.value });
                  }}
                >
                  {tell`Use “${shown(r.value).slice(0, 40)}”`}
                </button>
              ) : r.kind === 'clear' ? (
                <button
                  key={i}
                  type="button"
                  className="btn btn-xs ms-1"
                  onClick={() => {
                    save.mutate({ after: null });
                  }}
                >
                  {say`Clear it`}
                </button>
              ) : null,
            )}
          </p>
        ))}
        <p className="text-xs quiet">
          {room.map(({ used, most, what }) => (
            <span key={what} className={`float-end ms-3 ${used > most ? 'text-error' : ''}`}>
              <span className="num">{tell`${count(used)} of ${count(most)}`}</span> {what}
            </span>
          ))}
          {isFamilyAxis && text === '' && say`Not needed on a family row: its variants each have their own. `}
          {wordOrigin(listing, attribute.key, labelOf)}{' '}
          {attribute.type === 'money' && (
            <>
              <UnitPrice listing={listing} field={attribute.key} rulebook={rulebook} />
              <LeftOver listing={listing} field={attribute.key} rulebook={rulebook} />
            </>
          )}
          {isTyped && (
            <button
              type="button"
              className="ms-2 underline"
              onClick={() => {
                save.mutate({ after: null, reset: true });
              }}
            >
              {say`Take the product’s value again`}
            </button>
          )}
        </p>
      </div>
    </div>
  );
}

import { type ListingRow } from '@basileus/contract';
import { createLabeler, type Rulebook, type RulebookAttribute } from '@basileus/core/rulebook';
import { useQuery } from '@tanstack/react-query';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useMemo, useState } from 'react';
import { LevelMark } from '../ui/demand';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { Seal } from '../ui/Seal';
import { wordFinding } from '@basileus/core/checks';
import { wordingOf } from '../words/findings';
import { EntryBand } from './EntryBand';
import { FieldLine, fieldId } from './FieldLine';
import { listingQuery } from './queries';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

/** One listing: must fields only or all, by group, with findings and where each value comes from. */
export function ListingEditor({
  market,
  id,
  rulebook,
  onClose,
  onStep,
}: {
  market: string;
  id: number;
  rulebook: Rulebook;
  onClose: () => void;
  /** Goes to the row before or behind this one in the table it was opened from. */
  onStep?: (by: -1 | 1) => void;
}) {
  const [all, setAll] = useState(false);
  const { data, error, isLoading } = useQuery(listingQuery(market, id));
  const labelOf = useMemo(() => createLabeler(rulebook), [rulebook]);
  const label = data?.category ? rulebook.tree.find((n) => n.key === data.category)?.label : undefined;
  return (
    <Modal side title={data ? data.sku : say`Listing`} onClose={onClose}>
      {isLoading ? (
        <Loading />
      ) : error || !data ? (
        <Refused error={error} />
      ) : (
        <>
          <div className="sticky top-0 z-10 flex flex-wrap items-center gap-3 border-b border-base-300 bg-base-100 px-5 py-2">
            <Seal state={data.state} />
            <span className="min-w-0 truncate">{data.title}</span>
            <span className="quiet">{label ?? say`no category`}</span>
            {data.number && <span className="num quiet">{data.number}</span>}
            {data.axes.length > 0 && (
              <span className="quiet">
                {tell`${data.role === 'parent' ? 'family' : say`of ${data.parentSku ?? say`a family`}`}, by ${data.axes.map(labelOf).join(say` and `)}`}
              </span>
            )}
            {onStep && (
              <span className="join ms-auto" role="group" aria-label={say`Listings`}>
                {([-1, 1] as const).map((by) => (
                  <button
                    key={by}
                    type="button"
                    className="btn btn-xs join-item"
                    aria-label={by < 0 ? say`Previous listing` : say`Next listing`}
                    onClick={() => {
                      onStep(by);
                    }}
                  >
                    {by < 0 ? <ChevronLeft className="chevron" /> : <ChevronRight className="chevron" />}
                  </button>
                ))}
              </span>
            )}
            <div className={`join ${onStep ? '' : 'ms-auto'}`} role="group" aria-label={say`Fields`}>
              <button
                type="button"
                aria-pressed={!all}
                className={`btn btn-xs join-item ${all ? '' : 'btn-primary'}`}
                onClick={() => {
                  setAll(false);
                }}
              >
                {say`Must only`}
              </button>
              <button
                type="button"
                aria-pressed={all}
                className={`btn btn-xs join-item ${all ? 'btn-primary' : ''}`}
                onClick={() => {
                  setAll(true);
                }}
              >
                {say`All fields`}
              </button>
            </div>
          </div>
          {data.sitesOut.length > 0 && (
            <p className="border-b border-base-300 px-5 py-2 quiet">
              {tell`Not sold at ${rulebook.sites
                .filter((s) => data.sitesOut.includes(s.key))
                .map((s) => s.name)
                .join(say` and `)}: nothing is asked of it there.`}
            </p>
          )}
          <EntryBand listing={data} rulebook={rulebook} />
          <ToMend listing={data} rulebook={rulebook} />
          {rulebook.groups.map((g) => {
            const attributes = rulebook.attributes.filter((a) => a.group === g.key && shouldShow(data, a, all));
            return attributes.length === 0 ? null : (
              <section key={g.key} className="border-b border-base-300 px-5 py-3">
                <h3 className="mb-2 font-serif">{g.label}</h3>
                {attributes.map((a) => (
                  <FieldLine key={a.key} market={market} listing={data} attribute={a} rulebook={rulebook} />
                ))}
              </section>
            );
          })}
        </>
      )}
    </Modal>
  );
}

const shouldShow = (l: ListingRow, a: RulebookAttribute, all: boolean): boolean => {
  const level = l.levels[a.key];
  // What the market's entry says is not ours to change.
  if (l.entry?.is === 'joined' && level === undefined) return false;
  if (l.findings.some((f) => f.field === a.key && f.level !== 'tip')) return true;
  return level !== undefined && level !== 'unused' && (all || level === 'must');
};

/** What is to be mended, on top of all fields; each leads to its field. */
function ToMend({ listing, rulebook }: { listing: ListingRow; rulebook: Rulebook }) {
  const findings = listing.findings.filter((f) => f.level !== 'tip');
  if (findings.length === 0) return null;
  const wording = wordingOf(rulebook);
  return (
    <ul aria-label={say`To be mended`} className="border-b border-base-300 bg-base-200 px-5 py-2">
      {findings.map((f) => (
        <li key={f.check + f.message + f.field + f.value} className="flex items-baseline gap-2 py-0.5">
          <LevelMark level={f.level} bare />
          {rulebook.attributes.some((a) => a.key === f.field && shouldShow(listing, a, false)) ? (
            <button
              type="button"
              className="text-start underline decoration-base-content/30 underline-offset-2"
              onClick={() => {
                document.getElementById(fieldId(f.field))?.focus();
              }}
            >
              {wordFinding(f, wording)}
            </button>
          ) : (
            <span>{wordFinding(f, wording)}</span>
          )}
        </li>
      ))}
    </ul>
  );
}

import type { DispatchLine } from '@basileus/contract';
import type { Rulebook } from '@basileus/core/rulebook';
import { useMutation } from '@tanstack/react-query';
import { Link } from 'react-router';
import { toGridColumn } from '../prepare/columns';
import { saveCells } from '../saving/saving';
import { toCellText, toCellValue } from '../table/columns';
import { Difference } from '../ui/Difference';
import { plural, shown, say } from '../ui/text';
import { tell } from '../ui/tell';

const answers: Record<DispatchLine['state'], [string, string]> = {
  waiting: ['waits', 'quiet'],
  accepted: ['accepted', 'text-success'],
  remarked: [say`with a remark`, 'text-secondary'],
  refused: ['refused', 'text-error'],
  lost: [say`not answered`, 'text-error'],
  stopped: ['stopped', 'quiet'],
  abandoned: [say`given up`, 'quiet'],
};

/** One line: the answer, and the refused field to be mended where it stands. */
export function DispatchLineRow({
  line: l,
  market,
  rulebook,
  onOpen,
  onSaved,
}: {
  line: DispatchLine;
  market: string;
  rulebook: Rulebook | undefined;
  onOpen: (listing: number) => void;
  onSaved: () => void;
}) {
  const attribute = rulebook?.attributes.find((a) => a.key === l.field);
  const column = rulebook && attribute ? toGridColumn(rulebook, attribute, undefined) : undefined;
  const save = useMutation({
    mutationFn: ({ id, after }: { id: number; after: ReturnType<typeof toCellValue> }) =>
      saveCells(
        `listings:${market}`,
        [{ id, field: l.field, before: l.current, after }],
        say`Mended after a refusal: ${l.fieldLabel}`,
      ),
    onSuccess: onSaved,
  });
  const text = column ? toCellText(column, l.current) : shown(l.current);
  const [word, tone] = answers[l.state];
  const label = say`${l.fieldLabel} of ${l.sku}`;
  const { listingId: id } = l;
  const isOpen = l.state === 'refused' && column !== undefined && id !== null;
  return (
    <tr className={l.state === 'refused' && !l.mended ? 'bg-error/5' : ''}>
      <td className="num text-end quiet">{l.line}</td>
      <td className="num whitespace-nowrap">
        {id === null ? (
          l.sku
        ) : (
          <button
            type="button"
            className="underline decoration-base-300 underline-offset-2"
            aria-label={say`Open ${l.sku}`}
            onClick={() => {
              onOpen(id);
            }}
          >
            {l.sku}
          </button>
        )}
        {l.site && <span className="quiet"> · {siteName(rulebook, l.site)}</span>}
      </td>
      <td className={tone}>
        {word}
        {l.settledBy !== null ? (
          <Link className="block text-success underline" to={`/${market}/settle/${l.settledBy}`}>
            {tell`taken with No. ${l.settledBy}`}
          </Link>
        ) : id === null ? (
          <span className="block quiet">{say`not in the catalog any more`}</span>
        ) : (
          l.mended && <span className="block text-success">{say`mended`}</span>
        )}
      </td>
      <td className="min-w-52">
        {l.says === '' && <SentDifferences line={l} rulebook={rulebook} />}
        {l.says}
        {l.code && <span className="num quiet"> {l.code}</span>}
        {l.remedy && l.state !== 'refused' && <span className="block quiet">{l.remedy}</span>}
        {l.more.map((f, i) => (
          <span key={i} className="block">
            {f.fieldLabel && <span className="quiet">{f.fieldLabel}: </span>}
            {f.says} <span className="num quiet">{f.code}</span>
          </span>
        ))}
      </td>
      <td>
        {isOpen ? (
          <div
            className={`flex w-fit items-center gap-2 ${l.mended ? '' : 'rounded border border-error py-0.5 pe-0.5 ps-2'}`}
          >
            <span className="text-xs whitespace-nowrap">{l.fieldLabel}</span>
            {column.kind === 'choice' || column.kind === 'yes-no' ? (
              <select
                className="select select-sm w-48"
                aria-label={label}
                value={typeof l.current === 'string' ? l.current : ''}
                disabled={save.isPending}
                onChange={(e) => {
                  save.mutate({ id, after: e.target.value || null });
                }}
              >
                <option value="" />
                {column.options?.map((o) => (
                  <option key={o.code} value={o.code}>
                    {o.label}
                  </option>
                ))}
              </select>
            ) : (
              <input
                className="input input-sm w-56"
                aria-label={label}
                key={text}
                defaultValue={text}
                disabled={save.isPending}
                onKeyDown={(e) => {
                  if (e.key === 'Enter') e.currentTarget.blur();
                }}
                onBlur={(e) => {
                  if (e.target.value !== text) save.mutate({ id, after: toCellValue(column, e.target.value) });
                }}
              />
            )}
          </div>
        ) : (
          l.fieldLabel
        )}
      </td>
    </tr>
  );
}

const siteName = (rulebook: Rulebook | undefined, site: string): string =>
  rulebook?.sites.find((s) => s.key === site)?.country ?? site;

const mostShown = 5;

/** What a line that was taken has changed; of a new entry only how much it held. */
function SentDifferences({ line, rulebook }: { line: DispatchLine; rulebook: Rulebook | undefined }) {
  const { differences } = line;
  if (differences.length > mostShown)
    return <span className="quiet">{plural(differences.length, 'field', 'fields')}</span>;
  return differences.map((d) => (
    <div key={d.field}>
      <span className="quiet">{rulebook?.attributes.find((a) => a.key === d.field)?.label ?? d.field}:</span>{' '}
      <Difference before={d.before} after={d.after} />
    </div>
  ));
}

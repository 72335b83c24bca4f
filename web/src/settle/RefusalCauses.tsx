import { type DispatchShape, mendRefusals, type Refusal } from '@basileus/contract';
import { wordFinding } from '@basileus/core/checks';
import { canBeAlike, type Rulebook } from '@basileus/core/rulebook';
import { useMutation, useQuery } from '@tanstack/react-query';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { toGridColumn } from '../prepare/columns';
import { FillForm } from '../table/FillForm';
import { count, plural, say } from '../ui/text';
import { useWording } from '../words/findings';
import { refusalsQuery } from './queries';

const keyOf = (r: Refusal): string => `${r.code}.${r.field}`;

/** What the market refused, by cause: how many lines, what it says, and one value for all of them. */
export function RefusalCauses({
  dispatch,
  rulebook,
  chosen,
  onChoose,
  onMended,
}: {
  dispatch: DispatchShape;
  rulebook: Rulebook | undefined;
  chosen: string;
  onChoose: (key: string) => void;
  onMended: () => void;
}) {
  const wording = useWording(dispatch.market);
  const params = { id: dispatch.id };
  const causes = useQuery(refusalsQuery(dispatch.id)).data?.rows;
  const mend = useMutation({
    mutationFn: (body: { code: string; field: string; value?: string | string[] }) =>
      call(mendRefusals, { params, body }),
    onSuccess: (r) => {
      if (r.changed)
        toast.success(
          say`${plural(r.changed, 'line', 'lines')} mended${r.left ? say`; ${r.left} stayed as they were` : ''}.`,
        );
      for (const f of r.fails.slice(0, 2))
        toast.error(say`${plural(f.count, 'line', 'lines')} left as they were: ${wordFinding(f.finding, wording)}`);
      onMended();
    },
    onError: (e) => toast.error(e.message),
  });
  if (!causes?.length) return null;
  return (
    <ul aria-label={say`Refused by cause`} className="mx-5 mt-4 panel">
      {causes.map((r) => {
        const attribute = rulebook?.attributes.find((a) => a.key === r.field);
        const isChosen = keyOf(r) === chosen;
        return (
          <li
            key={keyOf(r)}
            className={`flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-base-300 border-s-[3px] px-3 py-2 last:border-b-0 ${isChosen ? 'border-s-primary bg-base-200' : 'border-s-transparent'}`}
          >
            <button
              type="button"
              aria-pressed={isChosen}
              className="flex min-w-0 flex-[1_1_20rem] items-baseline gap-3 text-start"
              onClick={() => {
                onChoose(isChosen ? '' : keyOf(r));
              }}
            >
              <span className="num w-9 shrink-0 text-end font-semibold">{count(r.count)}</span>
              <span className="min-w-0">
                {r.fieldLabel && <span className="font-semibold">{r.fieldLabel}: </span>}
                {r.says} <span className="num quiet">{r.code}</span>
                {r.remedy && <span className="block text-xs quiet">{r.remedy}</span>}
              </span>
            </button>
            {r.open === 0 ? (
              <span className="text-success">{say`all mended`}</span>
            ) : (
              <span className="flex flex-wrap items-center gap-2">
                {rulebook && attribute && canBeAlike(rulebook, attribute) && (
                  <FillForm
                    column={toGridColumn(rulebook, attribute, undefined)}
                    rows={r.open}
                    example={attribute.example}
                    isBusy={mend.isPending}
                    onFill={(value) => {
                      mend.mutate({
                        code: r.code,
                        field: r.field,
                        value: typeof value === 'string' ? value : [...value],
                      });
                    }}
                  />
                )}
                <button
                  type="button"
                  className="btn btn-sm"
                  title={say`The market has put it right; there is nothing to mend`}
                  disabled={mend.isPending}
                  onClick={() => {
                    mend.mutate({ code: r.code, field: r.field });
                  }}
                >
                  {say`May go as they are`}
                </button>
              </span>
            )}
          </li>
        );
      })}
    </ul>
  );
}

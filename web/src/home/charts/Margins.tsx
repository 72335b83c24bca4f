import { makeChoice, type Overview } from '@basileus/contract';
import { everyItem } from '@basileus/core/choose';
import { marginEdges } from '@basileus/core/pricing';
import { toMarketKey } from '@basileus/core/product';
import { marginAttribute } from '@basileus/core/rulebook';
import { useMutation } from '@tanstack/react-query';
import { Bar } from 'react-chartjs-2';
import { useNavigate } from 'react-router';
import { call } from '../../api/call';
import { toast } from '../../ui/messages';
import { count, say } from '../../ui/text';
import { nameMarginBand, toMarginClauses } from '../margins';
import { colour, heightOf, legend, lying, marketBar } from './look';

/** The legend takes a second line. */
const legendLine = 24;
type Margins = Overview['margins'];

/** From a loss over little to much; what earns is of one hue, the more the stronger. */
function listColours(): string[] {
  const earns = colour('--color-success'),
    paper = colour('--color-base-100');
  const shades = [25, 50, 75, 100].map((part) => `color-mix(in oklab, ${earns} ${part}%, ${paper})`);
  return [colour('--color-error'), colour('--color-warning'), ...shades];
}

/** Takes the rows of one band on one market to the catalog, with their margin beside them. */
function useBand() {
  const navigate = useNavigate();
  return useMutation({
    mutationFn: async ({ market, band }: { market: string; band: number }) => {
      const field = toMarketKey(market, marginAttribute);
      const which = { ...everyItem, clauses: toMarginClauses(field, band) };
      const { id } = await call(makeChoice, { body: { which } });
      return new URLSearchParams({ choice: String(id), sort: `${field}.up`, with: `${field},cost,price` });
    },
    onSuccess: (address) => navigate(`/all/gather?${address.toString()}`),
    onError: (e) => toast.error(e.message),
  });
}

/** What prices leave after tax, the market's cut and cost: listings by margin, a bar for each market. */
export function Margins({ margins }: { margins: Margins }) {
  const show = useBand();
  const names = Array.from({ length: marginEdges.length + 1 }, (_, band) => nameMarginBand(band)),
    colours = listColours();
  const losing = margins.filter((m) => m.bands[0]);
  return (
    <section className="panel p-4" aria-label={say`What prices leave`}>
      <h2 className="mb-2 text-lg">{say`What prices leave`}</h2>
      <div style={{ height: heightOf(margins.length) + legendLine }}>
        <Bar
          aria-label={margins
            .map((m) => `${m.name}: ${m.bands.map((n, i) => `${n} ${names[i]!}`).join(', ')}`)
            .join('; ')}
          data={{
            labels: margins.map((m) => m.name),
            datasets: names.map((label, band) => ({
              label,
              data: margins.map((m) => m.bands[band] ?? 0),
              backgroundColor: colours[band]!,
              barThickness: marketBar,
            })),
          }}
          options={{
            ...lying(true),
            plugins: legend(),
            onClick: (_, [on]) => {
              const market = on && margins[on.index]?.market;
              if (market) show.mutate({ market, band: on.datasetIndex });
            },
          }}
        />
      </div>
      <p className="quiet mt-1">{say`The margin after tax, fees and cost, at the site where it is least.`}</p>
      {losing.length > 0 && (
        <ul className="mt-1 flex flex-wrap gap-x-4">
          {losing.map((m) => (
            <li key={m.market}>
              <button
                type="button"
                className="cursor-pointer underline"
                disabled={show.isPending}
                onClick={() => {
                  show.mutate({ market: m.market, band: 0 });
                }}
              >
                {say`${count(m.bands[0]!)} at a loss on ${m.name}`}
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

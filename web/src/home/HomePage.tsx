import type { Today } from '@basileus/contract';
import { wordCause } from '@basileus/core/checks';
import { useQueries, useQuery } from '@tanstack/react-query';
import { BarElement, CategoryScale, Chart, Legend, LinearScale, Tooltip } from 'chart.js';
import { Bar } from 'react-chartjs-2';
import { Link } from 'react-router';
import { overviewQuery } from '../frame/queries';
import { rulebookQuery } from '../frame/scope';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { stateLooks, states as all } from '../ui/state';
import { count, plural, say } from '../ui/text';
import { useWording, wordingOf } from '../words/findings';
import { FirstSteps } from './FirstSteps';
import { wordToday } from './today';
import { stateNames } from '../ui/terms';

/** What nobody wants on a market is no part of how ready it is. */
const states = all.filter((s) => s !== 'left out');

Chart.defaults.font.family = say`'Source Sans 3 Variable', sans-serif`;
Chart.defaults.font.size = 13;
Chart.register(BarElement, CategoryScale, LinearScale, Tooltip, Legend);
const tone = {
  bad: 'border-s-error',
  warn: 'border-s-warning',
  note: 'border-s-info',
  good: 'border-s-success',
} as const;
const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name);

/** A label beside a bar, cut where it is long; the whole title is read out with the chart. */
const cutLabel = (title: string): string => (title.length > 27 ? `${title.slice(0, 26)}…` : title);

function TodayLink({ today, nameOf }: { today: Today; nameOf: (market: string) => string }) {
  const wording = useWording(today.market ?? '');
  const line = wordToday(today, nameOf, wording);
  return (
    <Link
      to={line.link}
      className={`panel flex items-baseline gap-4 border-s-4 px-4 py-2.5 hover:bg-base-200 ${tone[line.tone]}`}
    >
      <span className="num w-12 shrink-0 text-end text-lg">{count(today.count)}</span>
      <span className="min-w-0">
        <span className="block font-semibold">{line.title}</span>
        <span className="quiet">{line.detail}</span>
      </span>
    </Link>
  );
}

/** Height of the bar of one market, in pixels. */
const readinessBar = 22;
export function HomePage() {
  const { data, error, isLoading, refetch } = useQuery(overviewQuery(''));
  const keys = [...new Set(data?.causes.map((c) => c.market))];
  const found = useQueries({ queries: keys.map((m) => rulebookQuery(m)) });
  const books = new Map(keys.map((m, i) => [m, found[i]?.data]));
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} again={() => void refetch()} />;
  const nameOf = (market: string) => data.readiness.find((r) => r.market === market)?.name ?? market;
  const titles = data.causes.map((c) => {
    const book = books.get(c.market);
    return wordCause(c.cause, book ? wordingOf(book) : { market: nameOf(c.market), labelOf: (f) => f });
  });
  // With several markets the same words may be said of each: a second line says of which.
  const isOne = data.readiness.length < 2;
  const ink = colour('--color-base-content'),
    rule = colour('--color-base-300');
  const scales = (stacked: boolean) => ({
    x: { stacked, ticks: { color: ink, precision: 0 }, grid: { color: rule } },
    y: { stacked, ticks: { color: ink }, grid: { display: false } },
  });
  return (
    <>
      <PageHead
        title={say`What needs you today`}
        about={say`${plural(data.products, 'item or family', 'items and families')} in the catalog`}
      >
        <Link className="btn btn-sm btn-primary" to="/all/gather/imports">
          {say`Bring in a file`}
        </Link>
      </PageHead>
      <div className="grid min-h-0 flex-1 content-start gap-5 overflow-auto px-5 pb-8 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <section aria-label={say`Today`} className="flex flex-col gap-2">
          {data.products === 0 ? (
            <FirstSteps />
          ) : (
            data.today.length === 0 && (
              <div className="panel">
                <Empty title={say`Nothing waits for you.`}>
                  <Link className="underline" to="/all/settle">
                    {say`See what is live`}
                  </Link>
                </Empty>
              </div>
            )
          )}
          {data.today.map((t, i) => (
            <TodayLink key={`${t.kind}${i}`} today={t} nameOf={nameOf} />
          ))}
        </section>
        <div className="flex flex-col gap-5">
          <section className="panel p-4" aria-label={say`Readiness per market`}>
            <h2 className="mb-2 text-lg">{say`Readiness per market`}</h2>
            <div style={{ height: 72 + data.readiness.length * (readinessBar + 6) }}>
              <Bar
                aria-label={data.readiness
                  .map((r) => `${r.name}: ${states.map((s) => `${r.states[s] ?? 0} ${stateNames[s]}`).join(', ')}`)
                  .join('; ')}
                data={{
                  labels: data.readiness.map((r) => r.name),
                  datasets: states
                    .filter((s) => data.states[s])
                    .map((s) => ({
                      label: stateNames[s],
                      data: data.readiness.map((r) => r.states[s] ?? 0),
                      backgroundColor: colour(stateLooks[s].colour),
                      barThickness: readinessBar,
                    })),
                }}
                options={{
                  indexAxis: 'y',
                  maintainAspectRatio: false,
                  animation: false,
                  scales: scales(true),
                  plugins: { legend: { position: 'bottom', labels: { color: ink, boxWidth: 12 } } },
                }}
              />
            </div>
          </section>
          <section className="panel p-4" aria-label={say`Findings by cause`}>
            <h2 className="mb-2 text-lg">{say`What blocks or slows most`}</h2>
            {data.causes.length === 0 ? (
              <p className="quiet">{say`No findings.`}</p>
            ) : (
              <div style={{ height: 40 + data.causes.length * (isOne ? 26 : 36) }}>
                <Bar
                  aria-label={data.causes
                    .map((c, i) => `${titles[i]!}${isOne ? '' : say` on ${nameOf(c.market)}`}: ${c.count}`)
                    .join('; ')}
                  data={{
                    labels: titles.map((t, i) => (isOne ? cutLabel(t) : [cutLabel(t), nameOf(data.causes[i]!.market)])),
                    datasets: [
                      {
                        data: data.causes.map((c) => c.count),
                        backgroundColor: data.causes.map((c) =>
                          colour(c.level === 'blocker' ? '--color-error' : '--color-warning'),
                        ),
                        barThickness: 14,
                      },
                    ],
                  }}
                  options={{
                    indexAxis: 'y',
                    maintainAspectRatio: false,
                    animation: false,
                    scales: scales(false),
                    plugins: { legend: { display: false } },
                  }}
                />
              </div>
            )}
          </section>
          {data.answers.length > 0 && (
            <section className="panel p-4" aria-label={say`Answers over time`}>
              <h2 className="mb-2 text-lg">{say`Accepted and refused by day`}</h2>
              <div className="h-40">
                <Bar
                  aria-label={data.answers
                    .map((a) => say`${a.day}: ${a.accepted} accepted, ${a.refused} refused`)
                    .join('; ')}
                  data={{
                    labels: data.answers.map((a) => a.day),
                    datasets: [
                      {
                        label: say`accepted`,
                        maxBarThickness: 44,
                        data: data.answers.map((a) => a.accepted),
                        backgroundColor: colour('--color-success'),
                      },
                      {
                        label: say`refused`,
                        maxBarThickness: 44,
                        data: data.answers.map((a) => a.refused),
                        backgroundColor: colour('--color-error'),
                      },
                    ],
                  }}
                  options={{
                    maintainAspectRatio: false,
                    animation: false,
                    scales: {
                      x: { stacked: true, ticks: { color: ink } },
                      y: { stacked: true, ticks: { color: ink, precision: 0 }, grid: { color: rule } },
                    },
                    plugins: { legend: { position: 'bottom', labels: { color: ink, boxWidth: 12 } } },
                  }}
                />
              </div>
            </section>
          )}
        </div>
      </div>
    </>
  );
}

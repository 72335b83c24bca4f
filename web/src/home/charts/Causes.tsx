import type { Overview } from '@basileus/contract';
import { wordCause } from '@basileus/core/checks';
import { useQueries } from '@tanstack/react-query';
import { Bar } from 'react-chartjs-2';
import { rulebookQuery } from '../../frame/scope';
import { say } from '../../ui/text';
import { wordingOf } from '../../words/findings';
import { colour, lying } from './look';

/** A label beside a bar, cut where it is long; the whole title is read out with the chart. */
const cutLabel = (title: string): string => (title.length > 27 ? `${title.slice(0, 26)}…` : title);

/** The causes that block or slow most listings. */
export function Causes({ data, nameOf }: { data: Overview; nameOf: (market: string) => string }) {
  const keys = [...new Set(data.causes.map((c) => c.market))];
  const found = useQueries({ queries: keys.map((m) => rulebookQuery(m)) });
  const books = new Map(keys.map((m, i) => [m, found[i]?.data]));
  const titles = data.causes.map((c) => {
    const book = books.get(c.market);
    return wordCause(c.cause, book ? wordingOf(book) : { market: nameOf(c.market), labelOf: (f) => f });
  });
  // With several markets the same words may be said of each: a second line says of which.
  const isOne = data.readiness.length < 2;
  return (
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
            options={{ ...lying(false), plugins: { legend: { display: false } } }}
          />
        </div>
      )}
    </section>
  );
}

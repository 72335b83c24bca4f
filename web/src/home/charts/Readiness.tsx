import type { Overview } from '@basileus/contract';
import { Bar } from 'react-chartjs-2';
import { stateLooks, states as all } from '../../ui/state';
import { stateNames } from '../../ui/terms';
import { say } from '../../ui/text';
import { colour, heightOf, legend, lying, marketBar } from './look';

/** What nobody wants on a market is no part of how ready it is. */
const states = all.filter((s) => s !== 'left out');

/** Listings by state, a bar for each market. */
export function Readiness({ data }: { data: Overview }) {
  return (
    <section className="panel p-4" aria-label={say`Readiness per market`}>
      <h2 className="mb-2 text-lg">{say`Readiness per market`}</h2>
      <div style={{ height: heightOf(data.readiness.length) }}>
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
                barThickness: marketBar,
              })),
          }}
          options={{ ...lying(true), plugins: legend() }}
        />
      </div>
    </section>
  );
}

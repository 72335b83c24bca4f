import type { Overview } from '@basileus/contract';
import { Bar } from 'react-chartjs-2';
import { say } from '../../ui/text';
import { colour, legend, standing } from './look';

/** Lines that markets took and refused, by day. */
export function Answers({ answers }: { answers: Overview['answers'] }) {
  const set = (label: string, data: number[], name: string) => ({
    label,
    maxBarThickness: 44,
    data,
    backgroundColor: colour(name),
  });
  return (
    <section className="panel p-4" aria-label={say`Answers over time`}>
      <h2 className="mb-2 text-lg">{say`Accepted and refused by day`}</h2>
      <div className="h-40">
        <Bar
          aria-label={answers.map((a) => say`${a.day}: ${a.accepted} accepted, ${a.refused} refused`).join('; ')}
          data={{
            labels: answers.map((a) => a.day),
            datasets: [
              set(
                say`accepted`,
                answers.map((a) => a.accepted),
                '--color-success',
              ),
              set(
                say`refused`,
                answers.map((a) => a.refused),
                '--color-error',
              ),
            ],
          }}
          options={{ ...standing(), plugins: legend() }}
        />
      </div>
    </section>
  );
}

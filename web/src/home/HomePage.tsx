import type { Today } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { overviewQuery } from '../frame/queries';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { count, plural, say } from '../ui/text';
import { useWording } from '../words/findings';
import { ByClock } from './ByClock';
import { Answers } from './charts/Answers';
import { Causes } from './charts/Causes';
import { Margins } from './charts/Margins';
import { Readiness } from './charts/Readiness';
import { FirstSteps } from './FirstSteps';
import { gatherToday, wordGathered, wordToday } from './today';

const tone = {
  bad: 'border-s-error',
  warn: 'border-s-warning',
  note: 'border-s-info',
  good: 'border-s-success',
} as const;

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

/** What several markets have alike: how much of it there is in all, and the way to each. */
function GatheredLine({ line, nameOf }: { line: readonly Today[]; nameOf: (market: string) => string }) {
  const { title, detail, tone: sort, count: total } = wordGathered(line);
  const wording = useWording('');
  return (
    <div className={`panel flex items-baseline gap-4 border-s-4 px-4 py-2.5 ${tone[sort]}`}>
      <span className="num w-12 shrink-0 text-end text-lg">{count(total)}</span>
      <div className="min-w-0">
        <span className="block font-semibold">{title}</span>
        <span className="quiet">{detail}</span>
        <ul className="mt-1 flex flex-wrap gap-x-5">
          {line[0]?.kind === 'send' && (
            <li>
              <Link className="underline underline-offset-2" to="/all/send">
                {say`All markets`}
              </Link>
            </li>
          )}
          {line.map((t) => {
            const { link, detail: more } = wordToday(t, nameOf, wording);
            return (
              <li key={t.market}>
                <Link className="hover:underline" to={link} title={t.kind === 'send' ? more : undefined}>
                  <span className="underline underline-offset-2">{nameOf(t.market ?? '')}</span>{' '}
                  <span className="num quiet">{count(t.count)}</span>
                </Link>
              </li>
            );
          })}
        </ul>
      </div>
    </div>
  );
}

export function HomePage() {
  const { data, error, isLoading, refetch } = useQuery(overviewQuery(''));
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} again={() => void refetch()} />;
  const nameOf = (market: string) => data.readiness.find((r) => r.market === market)?.name ?? market;
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
          {gatherToday(
            data.today,
            data.readiness.map((r) => r.market),
          ).map((line, i) => {
            const [first, ...more] = line;
            return more.length > 0 ? (
              <GatheredLine key={first!.kind} line={line} nameOf={nameOf} />
            ) : (
              <TodayLink key={`${first!.kind}${i}`} today={first!} nameOf={nameOf} />
            );
          })}
          <ByClock />
        </section>
        <div className="flex flex-col gap-5">
          <Readiness data={data} />
          {data.margins.length > 0 && <Margins margins={data.margins} />}
          <Causes data={data} nameOf={nameOf} />
          {data.answers.length > 0 && <Answers answers={data.answers} />}
        </div>
      </div>
    </>
  );
}

import { type BulkCounts, type SampleItem, startBulk } from '@basileus/contract';
import {
  applyChanges,
  type ChangeStep,
  isChangedInBulk,
  mostSteps,
  prepareChange,
  wordStepProblem,
} from '@basileus/core/change';
import { isEveryItem } from '@basileus/core/choose';
import { type FieldBook, type ProductField, readMarketKey } from '@basileus/core/product';
import { type Exact, exact, padMoney, toDay } from '@basileus/core/quantity';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { call } from '../api/call';
import { ChooseItems } from '../choose/ChooseItems';
import { useChoice } from '../choose/useChoice';
import { useWideFields } from '../choose/wideFields';
import { useScope } from '../frame/scope';
import { useOwnTree } from '../own/fields';
import { Choice } from '../ui/Choice';
import { PageHead, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { count, plural, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { useQuiet } from '../ui/useQuiet';
import { KeepRecipe } from './KeepRecipe';
import { LookTable, Problems } from './LookTable';
import { readSteps, startStep, writeSteps } from './operation';
import { bulkCountQuery, recipesQuery, sampleQuery } from './queries';
import { StepForm } from './StepForm';
import { Trial } from './Trial';
import { tell } from '../ui/tell';

/** A change of many items: which, what, before and after of every row, then done as a job. */
export function BulkPage() {
  const { scope } = useScope(),
    book = useWideFields(),
    tree = useOwnTree();
  const navigate = useNavigate(),
    client = useQueryClient();
  const choice = useChoice();
  const [said, setSaid] = useUrlValue('steps'),
    [recipeId] = useUrlValue('recipe');
  const [steps, setSteps] = useState<ChangeStep[]>(() => readSteps(said));
  const [isChoosing, setChoosing] = useState(false),
    [isKeeping, setKeeping] = useState(false);
  const recipe = useQuery(recipesQuery).data?.rows.find((r) => r.id === Number(recipeId));
  const quiet = useQuiet(steps, 350);
  // The address holds the change, so that a link, or the way back, brings it again.
  useEffect(() => {
    const written = writeSteps(quiet);
    if (written !== said) setSaid(written);
  }, [quiet, said, setSaid]);
  const prepared = steps.length === 0 ? undefined : prepareChange(steps, book);
  const quietIsGood = quiet.length > 0 && prepareChange(quiet, book).ok;
  const bulk = { which: choice.which, steps: quiet };
  const isAsked = quietIsGood && choice.isReady && !choice.error;
  const counting = useQuery(bulkCountQuery(bulk, isAsked));
  const counts = isAsked ? counting.data : undefined;
  const isCurrent = quiet === steps && isAsked && counting.data !== undefined && !counting.isPlaceholderData;
  const [on] = useUrlValue('on'),
    [target, setTarget] = useState(() => marketOf(steps) || on);
  const samples = useQuery(sampleQuery(choice.which, target)).data ?? [];
  const fields = [...new Set(quiet.map((s) => s.field))];
  const start = useMutation({
    mutationFn: () => call(startBulk, { body: { ...bulk, title: recipe?.name ?? '', recipe: recipe?.id ?? null } }),
    onSuccess: ({ changeSet }) => {
      toast.success(say`The change is on its way; it goes on when you leave.`);
      void client.invalidateQueries({ queryKey: ['products'] });
      void navigate(`/all/history?set=${changeSet}`);
    },
  });
  const put = (i: number, step: ChangeStep) => {
    setSteps(steps.map((s, n) => (n === i ? step : s)));
  };
  if (choice.error) return <Refused error={choice.error} />;
  return (
    <>
      <PageHead
        title={recipe ? recipe.name : say`Change in bulk`}
        about={
          isEveryItem(choice.which) && counts
            ? say`All ${plural(counts.total, 'row', 'rows')}`
            : `${choice.name ? `${choice.name}: ` : ''}${choice.words}${counts ? `, ${plural(counts.total, 'row', 'rows')}` : ''}`
        }
      >
        <Link className="btn btn-sm" to={`/${scope}/gather?open=all${choice.id > 0 ? `&choice=${choice.id}` : ''}`}>
          {say`See them in the catalog`}
        </Link>
        <button
          type="button"
          className="btn btn-sm"
          disabled={!isAsked}
          onClick={() => {
            setKeeping(true);
          }}
        >
          {recipe ? say`Keep the recipe …` : say`Keep as a recipe …`}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={!isCurrent || counts?.changed === 0 || start.isPending}
          onClick={() => {
            start.mutate();
          }}
        >
          {isCurrent && counts ? say`Change ${plural(counts.changed, 'item', 'items')}` : say`Change`}
        </button>
      </PageHead>
      {start.error && <Refused error={start.error} />}
      <div className="flex min-h-0 flex-1 border-t border-base-300">
        <div className="flex w-[20rem] shrink-0 lg:w-[25rem] flex-col gap-4 overflow-auto border-e border-base-300 p-4">
          <section className="flex flex-col gap-2">
            <h2 className="text-lg">{say`Which`}</h2>
            <p>{choice.words}</p>
            <button
              type="button"
              className="btn btn-sm self-start"
              onClick={() => {
                setChoosing(true);
              }}
            >
              {say`Choose the items …`}
            </button>
          </section>
          <section className="flex flex-col gap-2">
            <h2 className="text-lg">{say`What`}</h2>
            <TargetSelect
              value={target}
              onChoose={(market) => {
                setTarget(market);
                setSteps([]);
              }}
            />
            <ol className="flex flex-col gap-2">
              {steps.map((step, i) => (
                <StepForm
                  key={i}
                  step={step}
                  book={book}
                  categories={tree.map((c) => c.name)}
                  samples={changeSamples(samples, steps.slice(0, i), book)}
                  problem={
                    prepared && !prepared.ok && prepared.step === i ? wordStepProblem(prepared.problem) : undefined
                  }
                  onChange={(s) => {
                    put(i, s);
                  }}
                  onDrop={() => {
                    setSteps(steps.filter((_, n) => n !== i));
                  }}
                />
              ))}
            </ol>
            <button
              type="button"
              className="btn btn-sm gap-1 self-start"
              disabled={steps.length >= mostSteps || !book.all.some((f) => (f.market ?? '') === target)}
              onClick={() => {
                setSteps([...steps, startStep(findNext(book, target, steps))]);
              }}
            >
              <Plus size={14} />
              {steps.length === 0 ? say`A change` : say`And then`}
            </button>
          </section>
          <section>
            <Trial key={JSON.stringify(bulk)} bulk={bulk} isAsked={isCurrent} changed={counts?.changed ?? 0} />
          </section>
        </div>
        <div className="flex min-w-0 flex-1 flex-col">
          {counts && (
            <div className={`flex flex-col gap-1 px-5 py-2 ${isCurrent ? '' : 'opacity-60'}`} role="status">
              <p>
                <b className="num">{count(counts.changed)}</b>
                {tell` of ${(<b className="num">{count(counts.total)}</b>)} rows change${counts.changed > 0 && say`, ${plural(counts.cells, 'cell', 'cells')} in all`}.`}{' '}
                <Sums counts={counts} labelOf={book.labelOf} />
              </p>
              <Problems counts={counts} book={book} />
            </div>
          )}
          <LookTable bulk={bulk} counts={counts} fields={fields} book={book} isAsked={isAsked} />
        </div>
      </div>
      {isChoosing && (
        <ChooseItems
          which={choice.which}
          onClose={() => {
            setChoosing(false);
          }}
          onChosen={(id) => {
            choice.choose(id);
            setChoosing(false);
          }}
        />
      )}
      {isKeeping && (
        <KeepRecipe
          bulk={bulk}
          recipe={recipe}
          onClose={() => {
            setKeeping(false);
          }}
        />
      )}
    </>
  );
}

/** The market whose listings steps are about; nothing for items. */
const marketOf = (steps: readonly ChangeStep[]): string => readMarketKey(steps[0]?.field ?? '')?.market ?? '';

/** The field that a further step is likeliest about: the price first, then the next amount that is not changed yet. */
function findNext(book: FieldBook, target: string, steps: readonly ChangeStep[]): ProductField {
  const there = book.all.filter((f) => (f.market ?? '') === target && isChangedInBulk(f));
  const open = there.filter((f) => !steps.some((s) => s.field === f.key));
  const byName = target === '' ? ['price', 'sale_price'].map((k) => open.find((f) => f.key === k)) : [];
  return byName.find(Boolean) ?? open.find((f) => f.kind === 'money') ?? open[0] ?? there[0]!;
}

/** What is changed: the items themselves, or their listings on one market. */
function TargetSelect({ value, onChoose }: { value: string; onChoose: (market: string) => void }) {
  const { markets } = useScope();
  return (
    <Choice
      label={say`What is changed`}
      all={say`of the items themselves`}
      width="w-full"
      value={value}
      options={markets.map((m) => [m.key, say`of their listings on ${m.name} alone`])}
      onChoose={onChoose}
    />
  );
}

/** Sample items as the steps before have made them. */
function changeSamples(
  samples: readonly SampleItem[],
  steps: readonly ChangeStep[],
  book: FieldBook,
): readonly SampleItem[] {
  const made = steps.length === 0 ? undefined : prepareChange(steps, book);
  if (!made?.ok) return samples;
  const today = toDay(new Date());
  return samples.map((p, index) => {
    const { changes } = made.change.run({ kind: p.kind, values: p.fields }, { today, index });
    return { ...p, fields: applyChanges(p.fields, changes) };
  });
}

const amount = (n: Exact): string => padMoney(n.toFixed()).replace(/\B(?=(\d{3})+(?=\.))/g, ',');

/** Numbers summed up before and after, over the rows that have both. */
function Sums({ counts, labelOf }: { counts: BulkCounts; labelOf: (field: string) => string }) {
  return counts.sums.map(({ field, before, after, rows }) => {
    const [b, a] = [exact(before), exact(after)];
    const share = b.isZero()
      ? ''
      : ` (${a
          .minus(b)
          .dividedBy(b)
          .times(100)
          .toFixed(1)
          .replace(/^(?!-)/, '+')} %)`;
    return (
      <span key={field} className="me-3" title={say`Summed up over ${plural(rows, 'row', 'rows')}`}>
        {labelOf(field)}: <span className="num">{amount(b)}</span> → <span className="num">{amount(a)}</span>
        {share}
      </span>
    );
  });
}

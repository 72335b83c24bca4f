import { makeChoice, type RecipeShape, removeRecipe, runRecipe } from '@basileus/contract';
import { wordSchedule, wordStep, wordStepProblem } from '@basileus/core/change';
import { isEveryItem, wordClauseProblem, wordWhich } from '@basileus/core/choose';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { useWideFields } from '../choose/wideFields';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { plural, when, say } from '../ui/text';
import { writeSteps } from './operation';
import { recipesQuery } from './queries';
import { tell } from '../ui/tell';

/** Changes that are kept, to be looked at and done again, by hand or by the clock. */
export function RecipesPage() {
  const recipes = useQuery(recipesQuery);
  return (
    <>
      <PageHead title={say`Recipes`} about={say`Bulk changes that are done again, on whatever then matches`}>
        <Link className="btn btn-sm" to="/all/gather/bulk">
          {say`A new change`}
        </Link>
      </PageHead>
      <div className="min-h-0 flex-1 overflow-auto border-t border-base-300 p-5">
        {recipes.isLoading ? (
          <Loading />
        ) : recipes.error || !recipes.data ? (
          <Refused error={recipes.error} again={() => void recipes.refetch()} />
        ) : recipes.data.rows.length === 0 ? (
          <Empty title={say`No recipe is kept yet.`}>
            {tell`Write a ${(
              <Link to="/all/gather/bulk" className="underline">
                {say`change in bulk`}
              </Link>
            )} and keep it as a recipe, such as the season’s sale or the rounding of new prices.`}
          </Empty>
        ) : (
          <table className="plain-table panel">
            <thead>
              <tr>
                <th>{say`Recipe`}</th>
                <th>{say`When`}</th>
                <th>{say`Last time`}</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {recipes.data.rows.map((r) => (
                <RecipeRow key={r.id} recipe={r} />
              ))}
            </tbody>
          </table>
        )}
      </div>
    </>
  );
}

function RecipeRow({ recipe: r }: { recipe: RecipeShape }) {
  const book = useWideFields(),
    { markets } = useScope();
  const client = useQueryClient(),
    navigate = useNavigate();
  const refresh = () => client.invalidateQueries({ queryKey: ['recipes'] });
  const look = useMutation({
    mutationFn: async () => (isEveryItem(r.which) ? 0 : (await call(makeChoice, { body: { which: r.which } })).id),
    onSuccess: (choice) =>
      navigate(
        `/all/gather/bulk?${new URLSearchParams({
          ...(choice > 0 ? { choice: String(choice) } : {}),
          steps: writeSteps(r.steps),
          recipe: String(r.id),
        }).toString()}`,
      ),
  });
  const run = useMutation({
    mutationFn: () => call(runRecipe, { params: { id: r.id } }),
    onSuccess: () => {
      toast.success(say`“${r.name}” is on its way.`);
      void refresh();
    },
    onError: (e) => toast.error(e.message),
  });
  const remove = useMutation({
    mutationFn: () => call(removeRecipe, { params: { id: r.id } }),
    onSuccess: () => {
      toast.success(say`“${r.name}” is kept no more; what it has changed stays.`);
      void refresh();
    },
    onError: (e) => toast.error(e.message),
  });
  return (
    <tr>
      <td className="align-top">
        <div className="font-semibold">{r.name}</div>
        <div className="quiet">{wordWhich(r.which, book, (k) => markets.find((m) => m.key === k)?.name ?? k)}</div>
        <ol>
          {r.steps.map((s, i) => (
            <li key={i}>{wordStep(s, book)}</li>
          ))}
        </ol>
        {r.trouble && (
          <p className="text-error">
            {'step' in r.trouble ? wordStepProblem(r.trouble.step) : wordClauseProblem(r.trouble.clause)}
          </p>
        )}
      </td>
      <td className="align-top">
        {r.schedule ? (
          <>
            {wordSchedule(r.schedule)}
            {r.nextAt && <div className="quiet text-xs">{tell`next ${when(r.nextAt)}`}</div>}
          </>
        ) : (
          <span className="quiet">{say`by hand`}</span>
        )}
      </td>
      <td className="align-top">
        {r.ranAt === null ? (
          <span className="quiet">{say`not yet`}</span>
        ) : (
          <>
            {when(r.ranAt)}
            <div className="text-xs">
              {r.lastSet !== null ? (
                <Link className="underline decoration-base-300 underline-offset-2" to={`/all/history?set=${r.lastSet}`}>
                  {tell`${plural(r.lastItems ?? 0, 'item', 'items')} changed`}
                </Link>
              ) : (
                <span className="quiet">{say`nothing was to be changed`}</span>
              )}
            </div>
          </>
        )}
      </td>
      <td className="text-end align-top whitespace-nowrap">
        <button
          type="button"
          className="btn btn-xs btn-primary me-1"
          disabled={look.isPending}
          onClick={() => {
            look.mutate();
          }}
        >
          {say`Look, then do …`}
        </button>
        <button
          type="button"
          className="btn btn-xs me-1"
          disabled={run.isPending || r.trouble !== null}
          onClick={() => {
            run.mutate();
          }}
        >
          {say`Do now`}
        </button>
        <button
          type="button"
          className="btn btn-xs"
          disabled={remove.isPending}
          onClick={() => {
            remove.mutate();
          }}
        >
          {say`Remove`}
        </button>
      </td>
    </tr>
  );
}

import { countValues, makeChoice } from '@basileus/contract';
import { type ChangeStep, listOperations } from '@basileus/core/change';
import type { CauseKey } from '@basileus/core/checks';
import { type Clause, everyItem } from '@basileus/core/choose';
import type { ProductField } from '@basileus/core/product';
import { type Rulebook, type RulebookAttribute, toAttributeField } from '@basileus/core/rulebook';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { call } from '../api/call';
import { writeSteps } from '../bulk/operation';
import { useFields } from '../own/fields';
import { fieldMapQuery } from '../prepare/queries';
import { toast } from '../ui/messages';
import { say } from '../ui/text';

/**
 * Leads to a change in bulk that reads what is missing from the texts of the items: into the field of ours that feeds the
 * attribute, where one does, so that every market has it; else into the listings of this market.
 */
export function ReadTexts({
  rulebook,
  attribute,
  cause,
}: {
  rulebook: Rulebook;
  attribute: RulebookAttribute;
  cause: Pick<CauseKey, 'check' | 'message'>;
}) {
  const { key: market } = rulebook.market;
  const navigate = useNavigate();
  const { get } = useFields();
  const row = useQuery(fieldMapQuery(market, '')).data?.rows.find((r) => r.attribute === attribute.key);
  const said = row?.said?.source;
  const feeding = said === undefined ? row?.suggested : said.is === 'field' ? said.field : null;
  const ours = feeding ? get(feeding) : undefined;
  const field = ours ?? toAttributeField(rulebook.market, rulebook, attribute);
  const go = useMutation({
    mutationFn: async () => {
      const clauses: Clause[] = [
        { is: 'empty', field: field.key },
        // What other markets miss in the same field of ours is meant too.
        ...(ours ? [{ is: 'finding' as const, check: cause.check, message: cause.message, field: ours.key }] : []),
      ];
      const [choice, words] = await Promise.all([
        call(makeChoice, { body: { which: { ...everyItem, clauses } } }),
        listWords(field),
      ]);
      const step: ChangeStep = { field: field.key, operation: { do: 'read', words, alone: false } };
      return { choice: choice.id, steps: writeSteps([step]) };
    },
    onSuccess: ({ choice, steps }) => {
      const on = ours ? '/all/gather/bulk?' : `/${market}/gather/bulk?on=${market}&`;
      void navigate(`${on}choice=${choice}&steps=${encodeURIComponent(steps)}`);
    },
    onError: (e) => toast.error(e.message),
  });
  if (!row || !listOperations(field).includes('read')) return null;
  return (
    <button
      type="button"
      className="btn btn-sm"
      disabled={go.isPending}
      title={say`Looks in titles, highlights and descriptions for what is missing; you see it before anything is written.`}
      onClick={() => {
        go.mutate();
      }}
    >
      {say`Read from the texts …`}
    </button>
  );
}

/** What a choice without a list is called where it is filled; the others know themselves what to look for. */
async function listWords(field: ProductField): Promise<string[]> {
  if ((field.kind !== 'text' && field.kind !== 'list') || field.values !== undefined) return [];
  const { values } = await call(countValues, { body: { which: everyItem, field: field.key } });
  return values.map((v) => v.value);
}

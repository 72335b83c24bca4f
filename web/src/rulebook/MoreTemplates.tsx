import { compareRulebook, readRulebookDocument } from '@basileus/contract';
import { listLeaves, nextVersion, type Rulebook, type RulebookFault, rulebookSchema } from '@basileus/core/rulebook';
import {
  extendRulebook,
  recallColumns,
  type SaidOfTemplate,
  takesTemplates,
  type TemplateReading,
  type TemplateSheet,
} from '@basileus/core/template';
import { queryOptions, useMutation, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import { call } from '../api/call';
import { bringTemplate } from '../connection/OwnTemplate';
import { readBlank } from '../connection/read-blank';
import { TemplateForm } from '../connection/TemplateForm';
import { useFields } from '../own/fields';
import { Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { Modal } from '../ui/Modal';
import { NewVersion, type NextVersion } from './NewVersion';
import { FileButton } from '../ui/FileButton';
import { say } from '../ui/text';

const documentQuery = (market: string) =>
  queryOptions({
    queryKey: ['markets', 'rulebook', market, 'document'],
    queryFn: () => call(readRulebookDocument, { params: { market } }),
  });

/** Where a market gives out a template for each of its categories: another one is brought, or a newer one of a category. */
export function MoreTemplates({ rulebook }: { rulebook: Rulebook }) {
  const market = rulebook.market.key;
  const fields = useFields();
  const [brought, setBrought] = useState<{ file: File; sheets: readonly TemplateSheet[] }>(),
    [wrong, setWrong] = useState<RulebookFault>(),
    [next, setNext] = useState<NextVersion & { form: string; file: File; said: SaidOfTemplate }>();
  const isPossible = takesTemplates(rulebook);
  const text = useQuery({ ...documentQuery(market), enabled: isPossible });
  const document = useMemo(() => text.data && rulebookSchema.safeParse(text.data).data, [text.data]);
  const recall = useCallback(
    (reading: TemplateReading) => (document ? recallColumns(document, reading) : {}),
    [document],
  );
  const look = useMutation({
    mutationFn: async (made: {
      document: Record<string, unknown>;
      form: string;
      file: File;
      said: SaidOfTemplate;
    }) => ({
      ...made,
      ...(await call(compareRulebook, { params: { market }, body: made.document })),
    }),
    onSuccess: (made) => {
      setNext(made);
      setBrought(undefined);
    },
  });
  const take = async (file: File): Promise<void> => {
    look.reset();
    const sheets = await readBlank(file, fields);
    setWrong('path' in sheets ? sheets : undefined);
    setBrought('path' in sheets ? undefined : { file, sheets });
  };
  if (!isPossible || !document) return text.error ? <Refused error={text.error} /> : null;
  return (
    <section aria-label={say`Templates by category`} className="panel flex flex-wrap items-center gap-3 p-4">
      <p>
        {say`${rulebook.market.name} gives out a template for each of its categories: bring another one, or a newer one of a category that is there.`}
      </p>
      <FileButton label={say`Blank template of a category`} accept=".xlsx,.xlsm" onFiles={(f) => void take(f)}>
        {say`Bring a template …`}
      </FileButton>
      {wrong && (
        <p role="alert" className="w-full text-error">
          {say`“${wrong.path}” cannot be taken: ${wrong.reason}`}
        </p>
      )}
      {brought && (
        <Modal
          title={say`A template of a category`}
          onClose={() => {
            setBrought(undefined);
          }}
          wide
        >
          <div className="p-5">
            <TemplateForm
              file={brought.file.name}
              sheets={brought.sheets}
              categories={listLeaves(rulebook).map((l) => l.label)}
              recall={recall}
              isPending={look.isPending}
              draft={(reading, settings) =>
                extendRulebook(document, reading, settings, fields, nextVersion(new Date(), document.version))
              }
              goOn={() => say`Look at what it changes`}
              onGoOn={({ document: made, form }, said) => {
                look.mutate({ document: made, form, file: brought.file, said });
              }}
            />
            {look.error && <Refused error={look.error} />}
          </div>
        </Modal>
      )}
      {next && (
        <NewVersion
          market={market}
          next={next}
          onPut={() =>
            bringTemplate(market, next.form, next.file, next.said).catch((e: unknown) => {
              toast.error(e instanceof Error ? e.message : say`The template could not be kept.`);
            })
          }
          onClose={() => {
            setNext(undefined);
          }}
        />
      )}
    </section>
  );
}

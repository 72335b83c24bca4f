import { compareRulebook } from '@basileus/contract';
import { type AttributeType, compileCategory, describeCondition } from '@basileus/core/rulebook';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { call, CallError } from '../api/call';
import { rulebookQuery, useScope } from '../frame/scope';
import { Branch } from '../prepare/CategoryPicker';
import { DemandNotch } from '../ui/demand';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { plural, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { FileForms } from './FileForms';
import { listLimits } from './limits';
import { MoreTemplates } from './MoreTemplates';
import { NewVersion, type NextVersion } from './NewVersion';
import { FileButton } from '../ui/FileButton';
import { tell } from '../ui/tell';

/** What the form of an attribute is called by people. */
const formWords: Record<AttributeType, string> = {
  text: say`text`,
  'long-text': say`long text`,
  html: say`text with markup`,
  integer: say`whole number`,
  decimal: 'number',
  money: say`amount of money`,
  'yes-no': say`yes or no`,
  'one-of': say`one of a list`,
  'several-of': say`several of a list`,
  date: 'day',
  moment: say`day and time`,
  measure: 'measure',
  identifier: say`barcode number`,
  links: 'links',
  'repeated-text': say`several lines of text`,
};

/** The market's rules as the rulebook in force has them: the tree, and what each leaf demands. */
export function RulebookPage() {
  const { market, name } = useScope();
  const [leaf, setLeaf] = useUrlValue('leaf'),
    [view, setView] = useUrlValue('view');
  const { data: book, error, isLoading } = useQuery(rulebookQuery(market));
  const [next, setNext] = useState<NextVersion | undefined>();
  const look = useMutation({
    mutationFn: async (file: File) => {
      const document = await readJson(file);
      return { document, ...(await call(compareRulebook, { params: { market }, body: document })) };
    },
    onSuccess: setNext,
  });
  const compiled = useMemo(() => (book && leaf ? compileCategory(book, leaf) : undefined), [book, leaf]);
  if (isLoading) return <Loading />;
  if (error || !book) return <Refused error={error} />;
  const labelOf = (k: string) => book.attributes.find((a) => a.key === k)?.label ?? k;
  const codeLabel = (k: string, c: string) =>
    book.codeLists[book.attributes.find((a) => a.key === k)?.codes ?? '']?.entries.find((e) => e.code === c)?.label ??
    c;
  return (
    <>
      <PageHead
        title={say`Rulebook of ${name}`}
        about={say`Version ${book.version} · ${plural(book.attributes.length, 'attribute', 'attributes')}, ${plural(book.tree.filter((n) => n.takesItems).length, 'leaf', 'leaves')}, ${plural(Object.keys(book.codeLists).length, 'code list', 'code lists')} · ${book.sites.map((s) => say`prices in ${s.currency} ${s.pricesInclude === 'tax' ? say`with` : say`without`} tax`).join(', ')}`}
      >
        <button
          type="button"
          className="btn btn-sm"
          aria-pressed={view === 'files'}
          onClick={() => {
            setView(view === 'files' ? '' : 'files');
          }}
        >
          {view === 'files' ? say`Show demands` : say`Show files`}
        </button>
        <a
          className="btn btn-sm"
          href={`/api/markets/${market}/rulebook/document`}
          download={`${market}-${book.version}.json`}
        >
          {say`Download this version`}
        </a>
        <FileButton
          label={say`Rulebook file`}
          accept="application/json,.json"
          onFiles={(f) => {
            look.mutate(f);
          }}
        >
          {say`Look at a new version …`}
        </FileButton>
      </PageHead>
      {look.error && <Refused error={look.error} />}
      <div className="grid min-h-0 flex-1 grid-rows-[30%_minmax(0,1fr)] border-t border-base-300 lg:grid-cols-[19rem_1fr] lg:grid-rows-1">
        <nav aria-label={say`Tree`} className="overflow-auto border-e border-base-300 bg-base-100 py-3">
          <Branch rulebook={book} parent={undefined} onChoose={setLeaf} />
        </nav>
        {view === 'files' ? (
          <div className="min-w-0 overflow-auto p-5">
            <h2 className="mb-1 text-lg">{say`What files look like`}</h2>
            <p className="mb-3 quiet">
              {tell`With made-up values${compiled ? say` of ${compiled.path.join(' › ')}` : ''}; choose a leaf to see another.`}
            </p>
            <div className="flex flex-col gap-5">
              <MoreTemplates key={market} rulebook={book} />
              <FileForms rulebook={book} leaf={leaf} />
            </div>
          </div>
        ) : !compiled ? (
          <Empty title={say`Choose a leaf of the tree.`}>
            {say`Its attributes show with their level of demand, their form and their limits.`}
          </Empty>
        ) : (
          <div className="min-w-0 overflow-auto p-5">
            <h2 className="mb-1 text-lg">{compiled.path.join(' › ')}</h2>
            <p className="mb-3 quiet">
              {compiled.axes.length
                ? say`Families may be divided by ${compiled.axes.map(labelOf).join(say` and `)}.`
                : say`Takes no families.`}
            </p>
            <table className="plain-table panel">
              <thead>
                <tr>
                  <th>{say`Level`}</th>
                  <th>{say`Attribute`}</th>
                  <th>{say`Form`}</th>
                  <th>{say`Limits and conditions`}</th>
                </tr>
              </thead>
              <tbody>
                {compiled.attributes
                  .filter((a) => a.strongest !== 'unused')
                  .map((a) => (
                    <tr key={a.attribute.key}>
                      <td className="whitespace-nowrap">
                        <span className="inline-flex items-center gap-2">
                          <DemandNotch level={a.strongest} />
                          {a.strongest}
                        </span>
                      </td>
                      <td>
                        {a.attribute.label}
                        <span className="num block text-xs quiet">{a.attribute.key}</span>
                      </td>
                      <td>
                        {formWords[a.attribute.type]}
                        {a.attribute.units && say` in ${a.attribute.units.join(say` or `)}`}
                        {a.codes && (
                          <details>
                            <summary className="cursor-pointer quiet">{tell`${a.codes.entries.length} values`}</summary>
                            {a.codes.entries.map((e) => (
                              <div key={e.code}>
                                <span className="num">{e.code}</span> {e.label}
                              </div>
                            ))}
                          </details>
                        )}
                      </td>
                      <td className="text-sm">
                        {listLimits(a.attribute, book.market.languages[0]!).join(', ')}
                        {a.conditions.map((c, i) => (
                          <div key={i}>{tell`${c.level} when ${describeCondition(c.when, labelOf, codeLabel)}`}</div>
                        ))}
                      </td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </div>
        )}
      </div>
      {next && (
        <NewVersion
          market={market}
          next={next}
          onClose={() => {
            setNext(undefined);
          }}
        />
      )}
    </>
  );
}

/** The document in a file; a refusal that names the file where it is not JSON. */
async function readJson(file: File): Promise<Record<string, unknown>> {
  try {
    return JSON.parse(await file.text()) as Record<string, unknown>;
  } catch {
    throw new CallError({
      code: 'bad-input',
      message: say`“${file.name}” is not JSON.`,
      field: null,
      remedy: say`Give the rulebook as one JSON document.`,
    });
  }
}

import { createMarket } from '@basileus/contract';
import { listLeaves, nextVersion, parseRulebook, type Rulebook, type RulebookFault } from '@basileus/core/rulebook';
import { draftedForm, draftRulebook, type SaidOfTemplate, type TemplateSheet } from '@basileus/core/template';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/call';
import { PageHead, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { useFields } from '../own/fields';
import { bringTemplate } from './OwnTemplate';
import { readBlank } from './read-blank';
import { KeyField } from './KeyField';
import { TemplateForm } from './TemplateForm';
import { UserField } from './UserField';
import { plural, say } from '../ui/text';
import { FileButton } from '../ui/FileButton';
import { tell } from '../ui/tell';

interface Brought {
  name: string;
  document: Record<string, unknown>;
  rulebook: Rulebook | undefined;
  faults: readonly RulebookFault[];
}

/** A market is added by bringing its rulebook; what is wrong with the document is shown before anything is kept. */
export function AddMarketPage() {
  const client = useQueryClient(),
    navigate = useNavigate();
  const [brought, setBrought] = useState<Brought>(),
    [url, setUrl] = useState(''),
    [user, setUser] = useState(''),
    [secret, setSecret] = useState('');
  const [template, setTemplate] = useState<{ file: File; sheets: readonly TemplateSheet[] }>();
  const add = useMutation({
    mutationFn: async ({ document, said }: { document: Record<string, unknown>; said?: SaidOfTemplate }) => {
      const added = await call(createMarket, {
        body: { document, url: url.trim() || null, secret: secret || null, user: user.trim() || null },
      });
      // The market is there by now: what is wrong with filling its template is said, and can be mended under Rulebook.
      if (template)
        await bringTemplate(added.key, draftedForm, template.file, said).catch((e: unknown) => {
          toast.error(e instanceof Error ? e.message : say`The template could not be kept.`);
        });
      return added;
    },
    onSuccess: (r) => {
      toast.success(say`${r.name} was added; everything is being checked by its rules.`);
      void client.invalidateQueries();
      void navigate(`/${r.key}/connection`);
    },
  });
  const fields = useFields();
  const take = async (file: File): Promise<void> => {
    add.reset();
    setBrought(undefined);
    setTemplate(undefined);
    if (!/\.xls[xm]$/i.test(file.name)) {
      setBrought(read(file.name, await file.text()));
      return;
    }
    const sheets = await readBlank(file, fields);
    if ('path' in sheets) setBrought({ name: file.name, document: {}, rulebook: undefined, faults: [sheets] });
    else setTemplate({ file, sheets });
  };
  const { rulebook } = brought ?? {};
  return (
    <>
      <PageHead
        title={say`Add a market`}
        about={say`A market is what its rulebook says: bring that document, or the blank template that the market gives out, and look at it first.`}
      />
      <div className="flex min-h-0 flex-1 flex-col gap-4 overflow-auto border-t border-base-300 p-5">
        <FileButton
          label={say`Rulebook or blank template of the new market`}
          accept="application/json,.json,.xlsx,.xlsm"
          className="btn btn-sm w-fit"
          onFiles={(f) => void take(f)}
        >
          {say`Choose the rulebook or the template …`}
        </FileButton>
        {brought && brought.faults.length > 0 && <Faults name={brought.name} faults={brought.faults} />}
        {template && (
          <TemplateForm
            key={template.file.name}
            file={template.file.name}
            sheets={template.sheets}
            isPending={add.isPending}
            draft={(reading, settings) => draftRulebook(reading, settings, fields, nextVersion(new Date()))}
            goOn={(settings) => say`Add ${settings.name.trim() || say`the market`}`}
            onGoOn={({ document }, said) => {
              add.mutate({ document, said });
            }}
          />
        )}
        {template && add.error && <Refused error={add.error} />}
        {brought && rulebook && (
          <form
            className="panel flex max-w-2xl flex-col gap-3 p-4"
            onSubmit={(e) => {
              e.preventDefault();
              add.mutate({ document: brought.document });
            }}
          >
            <h2 className="text-lg">{rulebook.market.name}</h2>
            <Summary rulebook={rulebook} />
            {rulebook.transport.kind !== 'by-hand' && (
              <label className="flex flex-col gap-1">
                <span className="text-sm">{say`Address that the market gave you; it can be given later`}</span>
                <input
                  className="input input-sm num w-full"
                  value={url}
                  placeholder={
                    rulebook.transport.kind === 'sftp'
                      ? say`sftp://files.market.example:22/seller`
                      : 'https://market.example/seller'
                  }
                  onChange={(e) => {
                    setUrl(e.target.value);
                  }}
                />
              </label>
            )}
            {rulebook.transport.kind === 'sftp' && <UserField user={user} onChange={setUser} />}
            {(rulebook.transport.kind === 'sftp' ||
              (rulebook.transport.kind === 'http' && rulebook.transport.login)) && (
              <KeyField secret={secret} onChange={setSecret} />
            )}
            {add.error && <Refused error={add.error} />}
            <button type="submit" className="btn btn-sm btn-primary w-fit" disabled={add.isPending}>
              {tell`Add ${rulebook.market.name}`}
            </button>
          </form>
        )}
      </div>
    </>
  );
}

/** The document in a file, read and judged here, so that a fault is shown before anything is sent. */
function read(name: string, text: string): Brought {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    return { name, document: {}, rulebook: undefined, faults: [{ path: name, reason: say`This is not JSON.` }] };
  }
  const reading = parseRulebook(document);
  return {
    name,
    document: document as Record<string, unknown>,
    rulebook: reading.ok ? reading.rulebook : undefined,
    faults: reading.ok ? [] : reading.faults,
  };
}

const mostFaults = 30;

function Faults({ name, faults }: { name: string; faults: readonly RulebookFault[] }) {
  return (
    <div role="alert" className="max-w-3xl border-s-4 border-error bg-base-100 px-4 py-3">
      <p className="font-semibold">{tell`“${name}” cannot be taken: ${plural(faults.length, 'fault', 'faults')}.`}</p>
      <ul className="mt-1">
        {faults.slice(0, mostFaults).map((f, i) => (
          <li key={i}>
            <span className="num">{f.path}</span>: {f.reason}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What the document says, in a few lines. */
function Summary({ rulebook: b }: { rulebook: Rulebook }) {
  const lines: [string, string][] = [
    [say`Sells in`, b.sites.map((s) => `${s.country} (${s.currency}, ${s.languages.join(say` and `)})`).join(', ')],
    [say`Takes items in`, plural(listLeaves(b).length, 'category', 'categories')],
    [say`Asks for`, plural(b.attributes.length, 'field', 'fields')],
    [say`Can be asked to`, Object.keys(b.operations).join(', ')],
    [say`Files`, b.forms.map((f) => f.label).join(', ')],
    [
      say`Reached`,
      { http: say`over the web`, sftp: say`in folders, over SFTP`, 'by-hand': say`by hand` }[b.transport.kind],
    ],
  ];
  return (
    <dl className="grid grid-cols-[8rem_1fr] gap-x-3 gap-y-1">
      {lines.map(([term, says]) => (
        <div key={term} className="contents">
          <dt className="quiet">{term}</dt>
          <dd>{says}</dd>
        </div>
      ))}
    </dl>
  );
}

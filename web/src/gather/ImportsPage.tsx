import { type ImportShape, uploadImport } from '@basileus/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type DragEvent, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { count, sizeOf, when, say } from '../ui/text';
import { importsQuery } from '../frame/queries';
import { tell } from '../ui/tell';

const stateWords: Record<ImportShape['state'], string> = {
  planning: say`being read`,
  planned: say`waits for your decision`,
  applying: say`being written`,
  applied: say`written`,
  failed: say`failed`,
  cancelled: say`stopped`,
};

/** How an import stands; one that has a time waits for nobody. */
export const wordState = ({ state, due }: Pick<ImportShape, 'state' | 'due'>): string =>
  state === 'planned' && due ? say`waits for ${when(due.at)}` : stateWords[state];

export function ImportsPage() {
  const { scope } = useScope();
  const navigate = useNavigate(),
    input = useRef<HTMLInputElement>(null);
  const [isOver, setOver] = useState(false);
  const list = useQuery(importsQuery);
  const upload = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return call(uploadImport, { form });
    },
    onSuccess: (i) => void navigate(`/${scope}/gather/imports/${i.id}`),
  });
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    const file = e.dataTransfer.files[0];
    if (file) upload.mutate(file);
  };
  return (
    <>
      <PageHead
        title={say`Imports`}
        about={say`Files from suppliers, from the business system, or brought back from a colleague.`}
      >
        <Link className="btn btn-sm" to={`/${scope}/gather/pictures`}>
          {say`Pictures by their names`}
        </Link>
        <Link className="btn btn-sm" to={`/${scope}/gather/exports`}>
          {say`Files that went out`}
        </Link>
        <Link className="btn btn-sm" to={`/${scope}/gather`}>
          {say`Catalog`}
        </Link>
      </PageHead>
      <div className="flex min-h-0 flex-1 flex-col gap-4 overflow-auto px-5 pb-8">
        <div
          onDragOver={(e) => {
            e.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => {
            setOver(false);
          }}
          onDrop={drop}
          className={`flex flex-col items-center gap-2 rounded-md border-2 border-dashed p-8 text-center ${isOver ? 'border-primary bg-primary/5' : 'border-base-300 bg-base-100'}`}
        >
          <p className="font-serif text-lg">{say`Drop a file here`}</p>
          <p className="quiet max-w-prose">
            {say`CSV, tab-delimited text, .xlsx or .ods, up to 250 MB. Encoding, delimiter, header and columns are found by themselves; you see what would change before anything is written.`}
          </p>
          <input
            ref={input}
            type="file"
            className="sr-only"
            aria-label={say`File to import`}
            accept=".csv,.tsv,.txt,.xlsx,.ods,text/csv,text/tab-separated-values"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (file) upload.mutate(file);
              e.target.value = '';
            }}
          />
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={upload.isPending}
            onClick={() => input.current?.click()}
          >
            {upload.isPending ? say`Reading …` : say`Choose a file`}
          </button>
        </div>
        {upload.error && <Refused error={upload.error} />}
        {list.isLoading ? (
          <Loading />
        ) : list.error ? (
          <Refused error={list.error} again={() => void list.refetch()} />
        ) : list.data!.rows.length === 0 ? (
          <div className="panel">
            <Empty title={say`No imports yet.`}>
              {tell`The demo has a supplier’s file and a price list in its folder ${(<span className="num">demo/files</span>)}.`}
            </Empty>
          </div>
        ) : (
          <div className="panel overflow-x-auto">
            <table className="plain-table">
              <thead>
                <tr>
                  <th>{say`File`}</th>
                  <th>{say`State`}</th>
                  <th className="text-end">{say`New`}</th>
                  <th className="text-end">{say`Changed`}</th>
                  <th className="text-end">{say`Refused`}</th>
                  <th className="text-end">{say`Size`}</th>
                  <th>{say`When`}</th>
                </tr>
              </thead>
              <tbody>
                {list.data!.rows.map((i) => (
                  <tr key={i.id}>
                    <td>
                      <Link className="underline underline-offset-2" to={`/${scope}/gather/imports/${i.id}`}>
                        {i.name}
                      </Link>
                    </td>
                    <td className={i.state === 'failed' ? 'text-error' : ''}>{wordState(i)}</td>
                    <td className="num text-end">{count(i.counts.create)}</td>
                    <td className="num text-end">{count(i.counts.update)}</td>
                    <td className="num text-end">{count(i.counts.refuse)}</td>
                    <td className="num text-end">{sizeOf(i.size)}</td>
                    <td>{when(i.createdAt)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </div>
    </>
  );
}

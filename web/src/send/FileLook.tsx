import type { Operation } from '@basileus/core/rulebook';
import { useQuery } from '@tanstack/react-query';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { count } from '../ui/text';
import type { RowChoice } from './ChooseRows';
import { FileTree } from './FileTree';
import { type FilePreview, fileQuery } from './queries';

const delimiterWords = { tab: 'tabs', comma: 'commas', semicolon: 'semicolons', pipe: 'bars' } as const;
const encodingWords: Readonly<Record<string, string>> = {
  'utf-8': 'UTF-8',
  'utf-8-mark': 'UTF-8 with a byte order mark',
  'windows-1252': 'Windows-1252',
  'utf-16le': 'UTF-16',
};

type Looks = FilePreview['looks'];
const wordContainer = (looks: Looks): string =>
  looks.as === 'table'
    ? `text divided by ${delimiterWords[looks.delimiter]}`
    : { 'json-lines': 'one object of JSON a line', json: 'a document of JSON', xml: 'a document of XML' }[
        looks.container
      ];

function FileTable({ rows, heads }: { rows: readonly string[][]; heads: number }) {
  return (
    <table className="plain-table num text-xs">
      <tbody>
        {rows.map((r, i) => (
          <tr key={i} className={i < heads ? 'bg-base-200 font-semibold' : ''}>
            {r.map((c, k) => (
              <td key={k} className="max-w-56 truncate whitespace-nowrap" title={c}>
                {c}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The file as the market would get it. */
export function FileLook({
  market,
  operation,
  choice,
  onClose,
}: {
  market: string;
  operation: Operation;
  choice: RowChoice;
  onClose: () => void;
}) {
  const file = useQuery(fileQuery(market, operation, choice));
  return (
    <Modal title={file.data ? file.data.name : 'The file'} onClose={onClose} wide>
      {file.isLoading ? (
        <Loading />
      ) : file.error || !file.data ? (
        <Refused error={file.error} />
      ) : (
        <div className="overflow-auto p-4">
          <p className="mb-2 quiet">
            The first {Math.min(50, file.data.total)} of {count(file.data.total)} rows, exactly as the market will get
            them: {wordContainer(file.data.looks)}, in {encodingWords[file.data.encoding] ?? file.data.encoding}.
          </p>
          {file.data.looks.as === 'table' ? (
            <FileTable rows={file.data.looks.rows} heads={file.data.looks.heads} />
          ) : (
            <FileTree records={file.data.looks.records} />
          )}
        </div>
      )}
    </Modal>
  );
}

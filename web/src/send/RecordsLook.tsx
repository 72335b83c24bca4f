import { encodingNames, type FileLook } from '@basileus/core/forms';
import type { Encoding } from '@basileus/core/rulebook';
import { FileTree } from './FileTree';
import { say } from '../ui/text';

const delimiterWords = { tab: 'tabs', comma: 'commas', semicolon: 'semicolons', pipe: 'bars' } as const;
/** An encoding as people name it. */
const wordEncoding = (encoding: Encoding): string =>
  encoding === 'utf-8-mark' ? say`${encodingNames[encoding]} with a byte order mark` : encodingNames[encoding];

/** What a file is: “text divided by commas, in UTF-8”; a workbook has no encoding that people could choose. */
export const wordFile = (looks: FileLook, encoding: Encoding): string =>
  looks.as === 'table' && looks.delimiter === null
    ? wordContainer(looks)
    : say`${wordContainer(looks)}, in ${wordEncoding(encoding)}`;

/** How records are told apart: “text divided by commas”. */
const wordContainer = (looks: FileLook): string =>
  looks.as === 'table'
    ? looks.delimiter === null
      ? say`a workbook`
      : say`text divided by ${delimiterWords[looks.delimiter]}`
    : { 'json-lines': say`one object of JSON a line`, json: say`a document of JSON`, xml: say`a document of XML` }[
        looks.container
      ];

type Column = Extract<FileLook, { as: 'table' }>['columns'][number];
/** What a column holds that is no field of a listing. */
const columnWords: Readonly<Record<string, string>> = {
  sku: 'SKU',
  'family-key': say`Family`,
  'parent-sku': say`Family`,
  'row-role': say`Row`,
  category: say`Category`,
  operation: say`Operation`,
  axes: say`Divided by`,
  entry: say`Entry`,
  site: say`Site`,
  currency: say`Currency`,
};
const wordColumn = ({ what, label, member }: Column): string =>
  `${member === null ? '' : say`Variant ${member}: `}${label || (columnWords[what] ?? '')}`;

/** The table as it is, under a row of ours that says in our words what each column holds. */
function FileTable({ rows, heads, columns }: Extract<FileLook, { as: 'table' }>) {
  return (
    <table className="plain-table num text-xs">
      <thead>
        <tr>
          {columns.map((c, i) => (
            <th key={i} className="max-w-56 truncate whitespace-nowrap font-normal text-base-content/60">
              {wordColumn(c)}
            </th>
          ))}
        </tr>
      </thead>
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

/** Records of a file as its market gets them: a table, or each as a tree. */
export function RecordsLook({ looks }: { looks: FileLook }) {
  return looks.as === 'table' ? <FileTable {...looks} /> : <FileTree records={looks.records} />;
}

import { type FieldRow, putFieldMap } from '@basileus/contract';
import type { Source } from '@basileus/core/listing';
import type { FieldBook } from '@basileus/core/product';
import type { Rulebook } from '@basileus/core/rulebook';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { useFields } from '../own/fields';
import { Choice } from '../ui/Choice';
import { DemandNotch } from '../ui/demand';
import { Empty, Loading, Refused } from '../ui/faces';
import { ListPicker } from '../ui/ListPicker';
import { toast } from '../ui/messages';
import { SearchBox } from '../ui/SearchBox';
import { count, plural, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { wordSource } from '../words/sources';
import { FormulaSource } from './FormulaSource';
import { NodeChoice } from './NodeChoice';
import { fieldMapQuery } from './queries';
import { TextSource } from './TextSource';
import { createPathText } from './tree';
import { useFollowUp } from './useFollowUp';
import { tell } from '../ui/tell';

const shows = [
  ['', say`All attributes`],
  ['open', say`Demanded and not filled`],
  ['said', say`Chosen here`],
  ['under', say`Chosen otherwise under here`],
] as const;
const isShown = (row: FieldRow, show: string, node: string): boolean =>
  show === 'open'
    ? row.demanded > (row.filled ?? 0)
    : show === 'said'
      ? row.said?.node === node
      : show === 'under'
        ? row.under.length > 0
        : true;

/** What feeds which attribute of a market: for all of its categories, or for one with those under it. */
export function FieldsView({ rulebook }: { rulebook: Rulebook }) {
  const { market, name } = useScope(),
    fields = useFields();
  const [node, setNode] = useUrlValue('for', ''),
    [search, setSearch] = useUrlValue('attribute', ''),
    [show, setShow] = useUrlValue('show', '');
  const { data, error, isLoading, isPlaceholderData, refetch } = useQuery(fieldMapQuery(market, node));
  const nodes = data?.nodes;
  const marked = useMemo(
    () => new Map((nodes ?? []).map((n) => [n.key, plural(n.said, 'attribute', 'attributes')])),
    [nodes],
  );
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} again={refetch} />;
  const text = search.toLowerCase();
  const rows = data.rows.filter(
    (r) => `${r.label} ${r.attribute}`.toLowerCase().includes(text) && isShown(r, show, node),
  );
  return (
    <div className="min-h-0 flex-1 overflow-auto p-5" aria-busy={isPlaceholderData}>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <SearchBox label={say`Find an attribute`} width="w-64" value={search} onChange={setSearch} />
        <NodeChoice rulebook={rulebook} node={node} marked={marked} width="w-72" onChoose={setNode} />
        <Choice
          label={say`Which attributes`}
          all={shows[0][1]}
          value={show}
          options={shows.slice(1)}
          width="w-56"
          onChoose={setShow}
        />
        <span className="quiet ms-auto text-sm">{plural(rows.length, 'attribute', 'attributes')}</span>
      </div>
      {rows.length === 0 ? (
        <Empty title={say`No attribute is so.`}>{say`Show all attributes, or look for another word.`}</Empty>
      ) : (
        <table className="plain-table panel">
          <thead>
            <tr>
              <th>{tell`Attribute on ${name}`}</th>
              <th>{say`Filled from`}</th>
              <th className="text-end">{say`Filled`}</th>
              <th className="text-end">{say`Demanded`}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <FieldLine key={row.attribute} row={row} node={node} rulebook={rulebook} fields={fields} />
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

function FieldLine({
  row,
  node,
  rulebook,
  fields,
}: {
  row: FieldRow;
  node: string;
  rulebook: Rulebook;
  fields: FieldBook;
}) {
  const { market } = useScope();
  const followUp = useFollowUp();
  const [editor, setEditor] = useState<'text' | 'formula' | undefined>();
  const put = useMutation({
    mutationFn: (source: Source | null) =>
      call(putFieldMap, { params: { market, attribute: row.attribute }, body: { node, source } }),
    onSuccess: (followed) => {
      setEditor(undefined);
      followUp(followed);
    },
    onError: (e) => toast.error(e.message),
  });
  const { said } = row,
    isHere = said?.node === node,
    source = said?.source;
  const pathOf = useMemo(() => createPathText(rulebook), [rulebook]);
  const nameNode = (key: string): string => (key === '' ? say`all categories` : pathOf(key));
  const otherwise = row.above
    ? say`as for ${nameNode(row.above.node)}: ${wordSource(row.above.source, fields.labelOf)}`
    : row.suggested === null
      ? say`nothing suggested`
      : say`as suggested: ${fields.labelOf(row.suggested)}`;
  const now = !isHere ? 'above' : source!.is === 'field' ? say`field ${source!.field}` : source!.is;
  const ofKind = (is: 'text' | 'formula', other: string): string =>
    isHere && source!.is === is ? wordSource(source!, fields.labelOf) : other;
  const options = [
    { code: 'above', label: otherwise },
    { code: 'nothing', label: say`nothing` },
    { code: 'text', label: ofKind('text', say`the same text for every item …`) },
    { code: 'formula', label: ofKind('formula', say`a formula …`) },
    ...fields.all.map((f) => ({ code: say`field ${f.key}`, label: f.label })),
  ];
  const choose = (code: string) => {
    if (code === 'text' || code === 'formula') setEditor(code);
    else if (code !== now)
      put.mutate(
        code === 'above'
          ? null
          : code === 'nothing'
            ? { is: 'nothing' }
            : { is: 'field', field: code.slice('field '.length) },
      );
  };
  const editing = {
    row,
    node,
    rulebook,
    isBusy: put.isPending,
    where: nameNode(node),
    onKeep: (s: Source) => {
      put.mutate(s);
    },
    onClose: () => {
      setEditor(undefined);
    },
  };
  return (
    <tr>
      <td>
        <span className="flex items-center gap-1.5">
          <span className="flex w-2 shrink-0">
            <DemandNotch level={row.level} />
          </span>
          {row.label}
        </span>
        <span className="num block ps-3.5 text-xs quiet">{row.attribute}</span>
      </td>
      <td>
        <ListPicker
          label={say`Source of ${row.label}`}
          width="w-80"
          options={options}
          value={now}
          disabled={put.isPending}
          onChoose={choose}
        />
        {row.isBroken && (
          <span className="block text-xs text-error">
            {say`This formula cannot be worked out any more; a field of it is gone. Choose “a formula …” and change it.`}
          </span>
        )}
        {row.under.length > 0 && (
          <span className="block text-xs quiet">{tell`otherwise for ${row.under.map(pathOf).join('; ')}`}</span>
        )}
        {editor === 'text' && <TextSource {...editing} />}
        {editor === 'formula' && <FormulaSource {...editing} fields={fields} />}
      </td>
      <td className="num text-end">{row.filled === null ? '' : count(row.filled)}</td>
      <td className={`num text-end ${row.filled !== null && row.demanded > row.filled ? 'text-error' : ''}`}>
        {count(row.demanded)}
      </td>
    </tr>
  );
}

import { type ProductFacets } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { Filter } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ChooseItems } from '../choose/ChooseItems';
import type { useChoice } from '../choose/useChoice';
import { useScope } from '../frame/scope';
import { Choice } from '../ui/Choice';
import { SearchBox } from '../ui/SearchBox';
import { useUrlValue } from '../ui/url';
import { useFields, useOwnTree } from '../own/fields';
import { wordAtSource } from '../words/findings';
import { importQuery } from './queries';

const kinds = { single: 'Singles', family: 'Families', variant: 'Variants', bundle: 'Bundles' };
const lackable = {
  gtin: 'a GTIN',
  brand: 'a brand',
  pictures: 'pictures',
  cost: 'a cost',
  price: 'a price',
  category: 'a category',
  description: 'a description',
};

/** What some market finds of a field of ours, by its name in the address. */
function wordFound(finding: string, labelOf: (field: string) => string): string {
  const [check = '', message = '', ...source] = finding.split('.');
  return wordAtSource(check, message, source.join('.'), labelOf);
}

/** Search and filters of the catalog, all held in the address. */
export function CatalogFilters({
  facets,
  isNarrowed,
  choice,
}: {
  facets: ProductFacets | undefined;
  isNarrowed: boolean;
  choice: ReturnType<typeof useChoice>;
}) {
  const [isChoosing, setChoosing] = useState(false);
  const { scope } = useScope();
  const navigate = useNavigate();
  const [q, setQ] = useUrlValue('q'),
    [open, setOpen] = useUrlValue('open'),
    [from] = useUrlValue('import'),
    [finding] = useUrlValue('finding');
  const { labelOf } = useFields();
  const tree = useOwnTree();
  /** A category with all that stand under it, each further in than the one over it. */
  const branches = tree.map(
    (c) => [c.name, `${'\u2003'.repeat(c.path.length - 1)}${c.name} (${c.withThoseUnder})`] as const,
  );
  const imported = useQuery(importQuery(Number(from))).data;
  const countOf = (list: ProductFacets['brands'] | undefined) =>
    (list ?? []).map((c) => [c.name, `${c.name} (${c.count})`] as const);
  return (
    <div className="flex items-center gap-2 overflow-x-auto px-5 pb-3">
      <SearchBox
        label="Find in the catalog"
        placeholder="Find SKU, title, barcode"
        width="w-64"
        value={q}
        onChange={setQ}
      />
      <UrlChoice name="category" label="Own category" all="Every category" options={branches} width="w-44" />
      <UrlChoice name="brand" label="Brand" all="Every brand" options={countOf(facets?.brands)} width="w-40" />
      <UrlChoice name="kind" label="Kind" all="Every kind" options={Object.entries(kinds)} width="w-32" />
      <UrlChoice name="lacks" label="Lacks" all="Lacks …" options={Object.entries(lackable)} width="w-36" />
      <button
        type="button"
        className={`btn btn-sm max-w-80 shrink-0 ${choice.id > 0 ? 'btn-outline' : ''}`}
        title={choice.id > 0 ? choice.words : 'Any condition on any field'}
        onClick={() => {
          setChoosing(true);
        }}
      >
        <Filter size={14} />
        <span className="truncate">{choice.id > 0 ? (choice.name ?? choice.words) : 'Conditions …'}</span>
      </button>
      <button
        type="button"
        className="btn btn-sm btn-ghost shrink-0"
        onClick={() => {
          setOpen(open === 'all' ? '' : 'all');
        }}
      >
        {open === 'all' ? 'Close families' : 'Open families'}
      </button>
      {imported && (
        <span className="shrink-0 text-xs">
          only what <span className="font-semibold">{imported.name}</span> changed
        </span>
      )}
      {finding !== '' && <span className="shrink-0 text-xs">only where {wordFound(finding, labelOf)}</span>}
      <button
        type="button"
        className="btn btn-sm btn-ghost shrink-0"
        disabled={!isNarrowed}
        onClick={() => {
          void navigate(`/${scope}/gather`);
        }}
      >
        Clear filters
      </button>
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
    </div>
  );
}

/** A filter that lives in the address. */
function UrlChoice({ name, ...rest }: { name: string } & Omit<Parameters<typeof Choice>[0], 'value' | 'onChoose'>) {
  const [value, setValue] = useUrlValue(name);
  return <Choice {...rest} value={value} onChoose={setValue} />;
}

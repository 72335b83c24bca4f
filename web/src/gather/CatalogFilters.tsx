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
import { say } from '../ui/text';
import { tell } from '../ui/tell';

const kinds = { single: say`Singles`, family: say`Families`, variant: say`Variants`, bundle: say`Bundles` };
const lackable = {
  gtin: say`a GTIN`,
  brand: say`a brand`,
  pictures: 'pictures',
  cost: say`a cost`,
  price: say`a price`,
  category: say`a category`,
  description: say`a description`,
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
        label={say`Find in the catalog`}
        placeholder={say`Find SKU, title, barcode`}
        width="w-64"
        value={q}
        onChange={setQ}
      />
      <UrlChoice name="category" label={say`Own category`} all={say`Every category`} options={branches} width="w-44" />
      <UrlChoice
        name="brand"
        label={say`Brand`}
        all={say`Every brand`}
        options={countOf(facets?.brands)}
        width="w-40"
      />
      <UrlChoice name="kind" label={say`Kind`} all={say`Every kind`} options={Object.entries(kinds)} width="w-32" />
      <UrlChoice name="lacks" label={say`Lacks`} all={say`Lacks …`} options={Object.entries(lackable)} width="w-36" />
      <button
        type="button"
        className={`btn btn-sm max-w-80 shrink-0 ${choice.id > 0 ? 'btn-outline' : ''}`}
        title={choice.id > 0 ? choice.words : say`Any condition on any field`}
        onClick={() => {
          setChoosing(true);
        }}
      >
        <Filter size={14} />
        <span className="truncate">{choice.id > 0 ? (choice.name ?? choice.words) : say`Conditions …`}</span>
      </button>
      <button
        type="button"
        className="btn btn-sm btn-ghost shrink-0"
        onClick={() => {
          setOpen(open === 'all' ? '' : 'all');
        }}
      >
        {open === 'all' ? say`Close families` : say`Open families`}
      </button>
      {imported && (
        <span className="shrink-0 text-xs">
          {tell`only what ${(<span className="font-semibold">{imported.name}</span>)} changed`}
        </span>
      )}
      {finding !== '' && <span className="shrink-0 text-xs">{tell`only where ${wordFound(finding, labelOf)}`}</span>}
      <button
        type="button"
        className="btn btn-sm btn-ghost shrink-0"
        disabled={!isNarrowed}
        onClick={() => {
          void navigate(`/${scope}/gather`);
        }}
      >
        {say`Clear filters`}
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

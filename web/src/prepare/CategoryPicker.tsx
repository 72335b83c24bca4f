import type { Rulebook } from '@basileus/core/rulebook';
import { Command } from 'cmdk';
import { useMemo, useState } from 'react';
import { Modal } from '../ui/Modal';
import { createLeafSearch, listLeafPaths } from './tree';
import { say } from '../ui/text';

interface Proposal {
  key: string;
  path: string[];
  reason: string;
}

const mostHits = 40;
const item = 'cursor-pointer px-5 py-1.5 data-[selected=true]:bg-primary/10';
const heading = 'px-5 pb-1 text-xs quiet';

/** Choosing a leaf: proposals with reasons, recent ones, search, or a walk down the tree. Arrow keys and Enter choose. */
export function CategoryPicker({
  rulebook,
  title,
  proposals,
  recent,
  onChoose,
  onClose,
}: {
  rulebook: Rulebook;
  title: string;
  proposals: readonly Proposal[];
  recent: readonly { key: string; path: string[]; count: number }[];
  onChoose: (key: string) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const search = useMemo(() => createLeafSearch(listLeafPaths(rulebook)), [rulebook]);
  const isSearching = text.trim() !== '';
  const hits = isSearching ? search(text).slice(0, mostHits) : [];
  const line = (group: string, key: string, path: string, about?: string) => (
    <Command.Item
      key={`${group}/${key}`}
      value={`${group}/${key}`}
      className={item}
      onSelect={() => {
        onChoose(key);
      }}
    >
      {path}
      {about && <span className="block text-xs quiet">{about}</span>}
    </Command.Item>
  );
  return (
    <Modal title={title} onClose={onClose}>
      <Command label={say`Search the tree`} shouldFilter={false}>
        <Command.Input
          data-first
          className="w-full border-b border-base-300 bg-transparent px-5 py-2.5 outline-none"
          placeholder={say`Search the tree`}
          value={text}
          onValueChange={setText}
        />
        <Command.List className="py-2">
          {isSearching ? (
            hits.length === 0 ? (
              <p className="px-5 py-3 quiet">{say`No category is called that.`}</p>
            ) : (
              hits.map((l) => line('hit', l.key, l.path))
            )
          ) : (
            <>
              {proposals.length > 0 && (
                <Command.Group heading={<h3 className={heading}>{say`Proposed`}</h3>}>
                  {proposals.map((p) => line('proposed', p.key, p.path.join(' › '), p.reason))}
                </Command.Group>
              )}
              {recent.length > 0 && (
                <Command.Group heading={<h3 className={`${heading} mt-2`}>{say`Used lately`}</h3>}>
                  {recent.slice(0, 5).map((p) => line('recent', p.key, p.path.join(' › ')))}
                </Command.Group>
              )}
            </>
          )}
        </Command.List>
      </Command>
      {!isSearching && (
        <section className="border-t border-base-300 py-2">
          <h3 className={heading}>{say`The tree`}</h3>
          <Branch rulebook={rulebook} parent={undefined} onChoose={onChoose} />
        </section>
      )}
    </Modal>
  );
}

export function Branch({
  rulebook,
  parent,
  onChoose,
}: {
  rulebook: Rulebook;
  parent: string | undefined;
  onChoose: (key: string) => void;
}) {
  return (
    <ul className={parent === undefined ? 'px-5' : 'ms-4 border-s border-base-300 ps-3'}>
      {rulebook.tree
        .filter((n) => n.parent === parent)
        .map((n) => (
          <li key={n.key}>
            {n.takesItems ? (
              <button
                type="button"
                className="py-1 text-start underline decoration-base-300 underline-offset-2 hover:decoration-current"
                onClick={() => {
                  onChoose(n.key);
                }}
              >
                {n.label}
              </button>
            ) : (
              <details open={parent === undefined}>
                <summary className="cursor-pointer py-1 font-semibold">{n.label}</summary>
                <Branch rulebook={rulebook} parent={n.key} onChoose={onChoose} />
              </details>
            )}
          </li>
        ))}
    </ul>
  );
}

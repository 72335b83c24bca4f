import type { Rulebook } from '@basileus/core/rulebook';
import { useMemo, useState } from 'react';
import { Modal } from '../ui/Modal';
import { listLeafPaths, searchLeaves } from './tree';

interface Proposal {
  key: string;
  path: string[];
  reason: string;
}

/** Choosing a leaf: proposals with reasons, recent ones, search, or a walk down the tree. */
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
  const leaves = useMemo(() => listLeafPaths(rulebook), [rulebook]);
  const hits = text.trim() ? searchLeaves(leaves, text) : [];
  const button = 'block w-full px-5 py-1.5 text-left hover:bg-primary/10 focus-visible:bg-primary/10';
  return (
    <Modal title={title} onClose={onClose}>
      <input
        type="search"
        autoFocus
        className="w-full border-b border-base-300 bg-transparent px-5 py-2.5 outline-none"
        aria-label="Search the tree"
        placeholder="Search the tree"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && hits[0]) onChoose(hits[0].key);
        }}
      />
      {text.trim() ? (
        <div className="py-2">
          {hits.length === 0 && <p className="px-5 py-3 quiet">No category is called that.</p>}
          {hits.slice(0, 40).map((l) => (
            <button
              key={l.key}
              type="button"
              className={button}
              onClick={() => {
                onChoose(l.key);
              }}
            >
              {l.path}
            </button>
          ))}
        </div>
      ) : (
        <>
          {proposals.length > 0 && (
            <section className="border-b border-base-300 py-2">
              <h3 className="px-5 pb-1 text-[12.5px] quiet">Proposed</h3>
              {proposals.map((p) => (
                <button
                  key={p.key}
                  type="button"
                  className={button}
                  onClick={() => {
                    onChoose(p.key);
                  }}
                >
                  {p.path.join(' › ')}
                  <span className="block text-[12.5px] quiet">{p.reason}</span>
                </button>
              ))}
            </section>
          )}
          {recent.length > 0 && (
            <section className="border-b border-base-300 py-2">
              <h3 className="px-5 pb-1 text-[12.5px] quiet">Used lately</h3>
              {recent.slice(0, 5).map((p) => (
                <button
                  key={p.key}
                  type="button"
                  className={button}
                  onClick={() => {
                    onChoose(p.key);
                  }}
                >
                  {p.path.join(' › ')}
                </button>
              ))}
            </section>
          )}
          <section className="py-2">
            <h3 className="px-5 pb-1 text-[12.5px] quiet">The tree</h3>
            <Branch rulebook={rulebook} parent={undefined} onChoose={onChoose} />
          </section>
        </>
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
    <ul className={parent === undefined ? 'px-5' : 'ml-4 border-l border-base-300 pl-3'}>
      {rulebook.tree
        .filter((n) => n.parent === parent)
        .map((n) => (
          <li key={n.key}>
            {n.leaf ? (
              <button
                type="button"
                className="py-1 text-left underline decoration-base-300 underline-offset-2 hover:decoration-current"
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

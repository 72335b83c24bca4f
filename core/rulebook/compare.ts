// What a new version of a rulebook changes, in sentences, before it is put in force.
import { compareDeep, compareParts, isObject, isSame, nameSome, pair, show } from './compare-parts';
import { compareNarrowed, type LeafPair, narrowedParts, pairLeaves } from './compare-limits';
import { listLeaves } from './compile';
import { findRenames, followRenames, type Renames } from './renames';
import type { CodeList, Form, Rulebook, RulebookAttribute, Slot } from './schema';
import type { DemandLevel } from './terms';
import { say, sayWord, term } from '../text';

export const changeAreas = ['categories', 'demands', 'attributes', 'codes', 'files', 'terms'] as const;
export type ChangeArea = (typeof changeAreas)[number];
export interface RulebookChange {
  area: ChangeArea;
  kind: 'new' | 'gone' | 'changed';
  says: string;
}

/** All changes from one version to another, area by area. An empty list means that nothing of substance differs. */
export function compareRulebooks(earlier: Rulebook, after: Rulebook): RulebookChange[] {
  const renames = findRenames(earlier, after),
    before = followRenames(earlier, renames);
  const leaves = pairLeaves(before, after);
  return [
    ...sayRenames(renames, after),
    ...compareCategories(before, after),
    ...compareDemands(leaves),
    ...compareAttributes(before, after, leaves),
    ...compareCodes(before, after, renames),
    ...compareForms(before, after),
    ...compareTerms(before, after),
  ];
}

/** What is called otherwise, with what stands under it. */
function sayRenames({ nodes, attributes }: Renames, after: Rulebook): RulebookChange[] {
  const list = (area: ChangeArea, names: ReadonlyMap<string, string>, labelOf: (key: string) => string) =>
    [...names].map(([was, now]) => ({
      area,
      kind: 'changed' as const,
      says: say`${labelOf(now)} is called ${now} and no more ${was}; what was said and typed goes along.`,
    }));
  return [
    ...list('categories', nodes, (key) => after.tree.find((n) => n.key === key)!.label),
    ...list('attributes', attributes, (key) => after.attributes.find((a) => a.key === key)!.label),
  ];
}

function compareCategories(before: Rulebook, after: Rulebook): RulebookChange[] {
  const leaves = (book: Rulebook) => listLeaves(book).map((l) => [l.key, l.path.join(' › ')] as const);
  const { both, added, gone } = pair(leaves(before), leaves(after));
  return [
    ...added.map((l) => ({ area: 'categories' as const, kind: 'new' as const, says: say`${l.now} takes items now.` })),
    ...gone.map((l) => ({
      area: 'categories' as const,
      kind: 'gone' as const,
      says: say`${l.was} takes no items any more; what stands in it needs another category.`,
    })),
    ...both
      .filter((l) => l.was !== l.now)
      .map((l) => ({ area: 'categories' as const, kind: 'changed' as const, says: say`${l.was} is now ${l.now}.` })),
  ];
}

/** Levels of demand that differ, the categories with the same difference together. */
function compareDemands(leaves: readonly LeafPair[]): RulebookChange[] {
  const groups = new Map<string, { says: string; kind: RulebookChange['kind']; leaves: string[] }>();
  const note = (id: string, kind: RulebookChange['kind'], says: string, leaf: string) => {
    const known = groups.get(id);
    if (known) known.leaves.push(leaf);
    else groups.set(id, { says, kind, leaves: [leaf] });
  };
  for (const { label, was, now } of leaves) {
    if (!was) continue;
    for (const a of now.attributes) {
      const old = was.byKey.get(a.attribute.key);
      const from: DemandLevel = old?.strongest ?? 'unused',
        to = a.strongest;
      const kind = from === 'unused' ? 'new' : to === 'unused' ? 'gone' : 'changed';
      const id = `${a.attribute.key} ${from} ${to}`;
      if (from !== to) note(id, kind, `${a.attribute.label}: ${from} → ${to}`, label);
      else if (old && !isSame(old.conditions, a.conditions))
        note(`${id} when`, 'changed', `${a.attribute.label}: when it is demanded has changed`, label);
    }
  }
  return [...groups.values()].map(({ says, kind, leaves }) => ({
    area: 'demands',
    kind,
    says: say`${says}, in ${nameSome(leaves)}.`,
  }));
}

const words: Partial<Record<keyof RulebookAttribute | 'values', string>> = {
  values: term`values in the list`,
  maxCharacters: term`characters at most`,
  minCharacters: term`characters at least`,
  maxBytes: term`bytes at most`,
  maxItems: term`entries at most`,
  minItems: term`entries at least`,
  min: term`least`,
  max: term`most`,
  decimals: term`places after the point`,
  label: term`name`,
  codes: term`list of values`,
  rows: term`rows in which it stands`,
  shared: term`the same in a family`,
  protectedWhenLive: term`kept once live`,
  textRules: term`rules of the text`,
};
/** What changes for nobody's data. */
const quiet = new Set<string>(['help', 'example', 'group', 'was']);
const byCategory = new Set<string>(narrowedParts);

function compareAttributes(before: Rulebook, after: Rulebook, leaves: readonly LeafPair[]): RulebookChange[] {
  const list = (book: Rulebook) => book.attributes.map((a) => [a.key, a] as const);
  const { both, added, gone } = pair<RulebookAttribute>(list(before), list(after));
  const narrowed = compareNarrowed(before, after, leaves);
  return [
    ...added.map(({ now }) => ({ area: 'attributes' as const, kind: 'new' as const, says: say`${now.label} is new.` })),
    ...gone.map(({ was }) => ({
      area: 'attributes' as const,
      kind: 'gone' as const,
      says: say`${was.label} is gone; what was typed into it is kept but not sent.`,
    })),
    ...both.flatMap(({ was, now }) =>
      compareParts(was, now, quiet)
        .filter((d) => !byCategory.has(d.part) || !narrowed.asked.has(now.key))
        .map((d) => sayPart(was.label, d)),
    ),
    ...narrowed.changes.map(({ label, leaves, ...d }) => sayPart(label, d, leaves)),
  ];
}

const sayPart = (
  label: string,
  { part, was, now }: { part: string; was: unknown; now: unknown },
  leaves?: readonly string[],
): RulebookChange => ({
  area: 'attributes',
  kind: 'changed',
  says: `${label}: ${sayWord(words[part as keyof typeof words] ?? part)} ${show(was)} → ${show(now)}${leaves ? say`, in ${nameSome(leaves)}` : ''}.`,
});

function compareCodes(before: Rulebook, after: Rulebook, renames: Renames): RulebookChange[] {
  // Those by which a category only narrows an attribute are compared with its limits.
  const own = (book: Rulebook) => {
    const named = new Set(book.attributes.map((a) => a.codes));
    return Object.entries(book.codeLists).filter(([key]) => named.has(key));
  };
  const { both, added, gone } = pair<CodeList>(own(before), own(after));
  const entries = (list: CodeList) => list.entries.map((e) => [e.code, e.label] as const);
  const renamedIn = (list: string): ReadonlyMap<string, string> =>
    new Map(after.attributes.flatMap((a) => (a.codes === list ? [...(renames.codes.get(a.key) ?? [])] : [])));
  return [
    ...added.map(({ now }) => ({
      area: 'codes' as const,
      kind: 'new' as const,
      says: say`The list ${now.label} is new, with ${now.entries.length} values.`,
    })),
    ...gone.map(({ was }) => ({
      area: 'codes' as const,
      kind: 'gone' as const,
      says: say`The list ${was.label} is gone.`,
    })),
    ...both.flatMap(({ key, was, now }): RulebookChange[] => {
      const codes = renamedIn(key);
      const e = pair(
        entries(was).map(([code, label]) => [codes.get(code) ?? code, label] as const),
        entries(now),
      );
      const renamed = e.both.filter((x) => x.was !== x.now);
      const list = (kind: RulebookChange['kind'], what: string, names: string[]): RulebookChange[] =>
        names.length ? [{ area: 'codes', kind, says: say`${now.label} ${what} ${nameSome(names)}.` }] : [];
      return [
        ...list(
          'new',
          say`takes also`,
          e.added.map((x) => `${x.now} (${x.key})`),
        ),
        ...list(
          'gone',
          say`takes no more`,
          e.gone.map((x) => `${x.was} (${x.key})`),
        ),
        ...list(
          'changed',
          say`has other codes, and what was said and typed goes along, for`,
          now.entries.flatMap((x) => {
            const old = [...codes].find(([, code]) => code === x.code)?.[0];
            return old === undefined ? [] : [`${x.label} (${old} → ${x.code})`];
          }),
        ),
        ...list(
          'changed',
          say`names anew`,
          renamed.map((x) => say`${x.was} as ${x.now}`),
        ),
      ];
    }),
  ];
}

function compareForms(before: Rulebook, after: Rulebook): RulebookChange[] {
  const list = (book: Rulebook) => book.forms.map((l) => [l.key, l] as const);
  const { both, added, gone } = pair<Form>(list(before), list(after));
  return [
    ...added.map(({ now }) => ({
      area: 'files' as const,
      kind: 'new' as const,
      says: say`The file ${now.label} is new.`,
    })),
    ...gone.map(({ was }) => ({
      area: 'files' as const,
      kind: 'gone' as const,
      says: say`The file ${was.label} is gone.`,
    })),
    ...both.flatMap(({ was, now }): RulebookChange[] => {
      const slots = pair<Slot>(
        was.slots.map((c) => [c.key, c] as const),
        now.slots.map((c) => [c.key, c] as const),
      );
      const list = (kind: RulebookChange['kind'], says: string): RulebookChange => ({
        area: 'files',
        kind,
        says: `${now.label}: ${says}.`,
      });
      const order = (l: Form) => l.slots.map((c) => c.key).filter((k) => slots.both.some((c) => c.key === k));
      const changed = slots.both.filter((c) => !isSame(c.was, c.now));
      return [
        ...(slots.added.length ? [list('new', say`new columns ${nameSome(slots.added.map((c) => c.key))}`)] : []),
        ...(slots.gone.length
          ? [list('gone', say`without the columns ${nameSome(slots.gone.map((c) => c.key))}`)]
          : []),
        ...(changed.length ? [list('changed', say`other contents in ${nameSome(changed.map((c) => c.key))}`)] : []),
        ...(isSame(order(was), order(now)) ? [] : [list('changed', say`the columns stand in another order`)]),
        ...(isSame(was.for, now.for)
          ? []
          : [list('changed', say`for ${showNodes(before, was.for)} → for ${showNodes(after, now.for)}`)]),
        ...compareParts(was, now, new Set(['slots', 'for']))
          .flatMap((d) => compareDeep(d.part, d.was, d.now))
          .map((d) => list('changed', `${d.way} ${show(d.was)} → ${show(d.now)}`)),
      ];
    }),
  ];
}

/** Categories that a form is for. */
const showNodes = (book: Rulebook, nodes: readonly string[] | undefined): string =>
  nodes === undefined ? 'all' : nameSome(nodes.map((key) => book.tree.find((n) => n.key === key)?.label ?? key));

const termParts = [
  'market',
  'sku',
  'families',
  'roles',
  'offer',
  'pictures',
  'text',
  'sites',
  'operations',
  'answers',
  'codes',
  'lists',
  'fees',
  'transport',
] as const;

const showState = (s: unknown): string =>
  isObject(s) ? `${show(s['is'])}${s['entry'] === 'gone' ? say`, the entry gone` : ''}` : show(s);

function compareTerms(before: Rulebook, after: Rulebook): RulebookChange[] {
  const terms = termParts.flatMap((part) => compareDeep(part, before[part], after[part]));
  return [
    ...terms.map((d) => ({
      area: 'terms' as const,
      kind: 'changed' as const,
      says: `${d.way}: ${show(d.was)} → ${show(d.now)}.`,
    })),
    ...compareParts(before.states, after.states).map((d) => ({
      area: 'terms' as const,
      kind: 'changed' as const,
      says: say`The market’s word ${show(d.part)} means ${showState(d.now)} (was ${showState(d.was)}).`,
    })),
  ];
}

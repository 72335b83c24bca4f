// Which leaf of a market's tree an item belongs to, told by the words of the leaves and by what people placed before.
//
// A Bayes classifier over what items tell (words, own category, places on other markets), each taken as present or not.
// How likely a thing is in a leaf is estimated from the items placed there, drawn towards how likely it is anywhere (the
// m-estimate; T. Mitchell, Machine Learning, 1997, section 6.9.1.1, from memory); before anything is placed, a leaf counts
// as some items that are called as it is. What an item does not tell is no evidence: titles are too short for that.
import { createHabits } from './habits';
import { type Clue, type Clues, type ItemTold, readClues, listWords, toRoot } from './clues';

export interface LeafWords {
  key: string;
  label: string;
  path: readonly string[];
  words: readonly string[];
}

export type Sureness = 'sure' | 'likely' | 'unsure';

/** A leaf that an item may belong to, with what speaks for it. */
export interface LeafProposal {
  key: string;
  /** The probability among all leaves that anything speaks for, 0 to 1. */
  share: number;
  sureness: Sureness;
  /** Words of the item that speak for the leaf most, as they are written. */
  words: string[];
  /** How many items of the same own category are placed there. */
  chosen: number;
  /** Places on other markets that go with this leaf. */
  elsewhere: string[];
}

export interface LeafModel {
  /** Takes what somebody placed as an example. A leaf that is not in the tree any more teaches nothing. */
  learn: (item: ItemTold, leaf: string) => void;
  /** Takes an example back, so that an item can be judged as if it had not been placed. */
  forget: (item: ItemTold, leaf: string) => void;
  /** The leaves that an item may belong to, the most likely first; none where nothing is known of what it tells. */
  propose: (item: ItemTold, count?: number) => LeafProposal[];
}

// How much each part weighs was chosen on the demo catalog, with whole families and whole own categories held back.
/**
 * Items that a leaf counts as before any is placed there, and how often its own words, further words and those above it count
 * as met among them: a word of the label more than once in each, since it is what the market itself calls them.
 */
const itemsOfLabel = 5,
  labelWeight = 12,
  wordsWeight = 9,
  aboveWeight = 0.5;
/** How many items' worth a leaf's estimate is drawn towards that of all. */
const pull = 10;
/** What is met more seldom is taken to be this likely, so that a word seen once proves little. */
const rarest = 0.05;
/** The most that one thing speaks against a leaf. */
const worst = 0.25;
/** What it speaks for a leaf that an item is called by a whole name of it: three times as likely. */
const named = Math.log(3);
/** From which share on a leaf is sure, or likely. */
const sureFrom = 0.8,
  likelyFrom = 0.4;
/** What speaks for a leaf at least so much as the strongest thing does is named as a reason. */
const worthNaming = 0.5;
/** A word that is put together has so many letters before its last part at the least, and so many in it. */
const shortestBefore = 3,
  shortestPart = 4;

/** Things of one kind that items tell, counted by leaf. */
class Tally {
  readonly byThing = new Map<string, Map<number, number>>();
  private readonly totals = new Map<string, number>();

  add(thing: string, leaf: number, times: number): void {
    const leaves = this.byThing.get(thing) ?? new Map<number, number>();
    this.byThing.set(thing, leaves);
    leaves.set(leaf, (leaves.get(leaf) ?? 0) + times);
    this.totals.set(thing, this.totalOf(thing) + times);
  }
  totalOf(thing: string): number {
    return this.totals.get(thing) ?? 0;
  }
}

/** What an item tells that the model knows, with how often it is met by leaf. */
interface Known {
  kind: 'word' | 'own' | 'elsewhere';
  clue: Clue;
  byLeaf: ReadonlyMap<number, number>;
  usual: number;
}

/** A model of a tree. Time to propose grows with the leaves that an item's words are met in, not with the items learnt. */
export function createLeafModel(leaves: readonly LeafWords[]): LeafModel {
  const words = new Tally(),
    own = new Tally(),
    elsewhere = new Tally(),
    habits = createHabits();
  const sizes = new Float64Array(leaves.length).fill(itemsOfLabel);
  let all = itemsOfLabel * leaves.length;
  const places = new Map(leaves.map((l, i) => [l.key, i]));
  leaves.forEach((leaf, i) => {
    for (const [word, weight] of weighLabel(leaf)) words.add(word, i, weight);
  });

  const count = (item: ItemTold, leaf: string, times: number): void => {
    const place = places.get(leaf);
    if (place === undefined) return;
    const clues = readClues(item);
    for (const w of clues.words) words.add(w.thing, place, times * w.weight);
    for (const o of clues.own) own.add(o.thing, place, times);
    for (const e of clues.elsewhere) elsewhere.add(e.thing, place, times);
    habits.count(place, clues.called, times);
    sizes[place]! += times;
    all += times;
  };

  const know = (kind: Known['kind'], tally: Tally, clue: Clue, thing = clue.thing): Known[] => {
    const byLeaf = tally.byThing.get(thing);
    return byLeaf ? [{ kind, clue, byLeaf, usual: Math.max(rarest, tally.totalOf(thing) / all) }] : [];
  };
  const listKnown = (clues: Clues): Known[] => [
    ...clues.words.flatMap((c) => know('word', words, c, findMet(words, c))),
    ...clues.own.flatMap((c) => know('own', own, c)),
    ...clues.elsewhere.flatMap((c) => know('elsewhere', elsewhere, c)),
  ];
  /** Words of each name of a leaf. */
  const names = leaves.map((l) => [l.label, ...l.words].map((name) => [...listWords(name).keys()]));
  const isNamed = (leaf: number, said: ReadonlySet<string>): boolean =>
    names[leaf]!.some((name) => name.length > 0 && name.every((w) => said.has(w)));
  /** How much likelier a thing is in a leaf than anywhere, as a logarithm. */
  const weigh = ({ byLeaf, usual, clue }: Known, leaf: number): number =>
    clue.weight * Math.log(Math.max(worst, ((byLeaf.get(leaf) ?? 0) + pull * usual) / ((sizes[leaf]! + pull) * usual)));

  return {
    learn: (item, leaf) => {
      count(item, leaf, 1);
    },
    forget: (item, leaf) => {
      count(item, leaf, -1);
    },
    propose: (item, most = 5) => {
      const clues = readClues(item),
        known = listKnown(clues),
        said = new Set([...clues.called, ...listWords(item.own).keys()]);
      const candidates = new Set(known.flatMap((k) => [...k.byLeaf].flatMap(([leaf, n]) => (n > 0 ? [leaf] : []))));
      const ranked = [...candidates]
        .map((leaf) => ({
          leaf,
          score: known.reduce((sum, k) => sum + weigh(k, leaf), isNamed(leaf, said) ? named : 0),
        }))
        .sort((a, b) => b.score - a.score || a.leaf - b.leaf);
      const top = ranked[0]?.score ?? 0;
      const sum = ranked.reduce((n, r) => n + Math.exp(r.score - top), 0);
      return ranked.slice(0, most).map(({ leaf, score }): LeafProposal => {
        const share = Math.exp(score - top) / sum;
        const weighed = known.map((k) => ({ ...k, weight: weigh(k, leaf) })).sort((a, b) => b.weight - a.weight);
        const speaking = weighed.filter((k) => k.weight > 0 && k.weight >= weighed[0]!.weight * worthNaming);
        const chosen = clues.own.reduce((n, o) => n + (own.byThing.get(o.thing)?.get(leaf) ?? 0), 0);
        const ofKind = (kind: Known['kind']) => speaking.filter((k) => k.kind === kind).map((k) => k.clue.written);
        return {
          key: leaves[leaf]!.key,
          share,
          sureness: judgeSureness(share, {
            isNamed: isNamed(leaf, said),
            isKnown: chosen > 0 || speaking.some((k) => k.kind === 'elsewhere'),
            usual: habits.of(leaf),
            said,
          }),
          words: ofKind('word'),
          chosen,
          elsewhere: ofKind('elsewhere'),
        };
      });
    },
  };
}

/**
 * How sure a leaf is. That no other is likelier does not make it right, since the market may have none for the item: it has to
 * be called by a whole name of the leaf, or as nearly all that is placed there, or somebody placed its like there.
 */
function judgeSureness(
  share: number,
  ground: { isNamed: boolean; isKnown: boolean; usual: readonly string[]; said: ReadonlySet<string> },
): Sureness {
  const isUnusual = ground.usual.some((w) => !ground.said.has(w));
  const isGrounded = ground.isNamed || ground.isKnown || (ground.usual.length > 0 && !isUnusual);
  if (share >= sureFrom && isGrounded && !isUnusual) return 'sure';
  return share >= likelyFrom && (isGrounded || !isUnusual) ? 'likely' : 'unsure';
}

/** How much the words of a leaf count for it: those of its label most, of several words each the less. */
function weighLabel(leaf: LeafWords): ReadonlyMap<string, number> {
  const weights = new Map<string, number>();
  const put = (text: string, weight: number): void => {
    const words = listWords(text);
    for (const w of words.keys()) weights.set(w, Math.max(weights.get(w) ?? 0, weight / Math.sqrt(words.size)));
  };
  for (const above of leaf.path.slice(0, -1)) put(above, aboveWeight);
  for (const phrase of leaf.words) put(phrase, wordsWeight);
  put(leaf.label, labelWeight);
  return weights;
}

/** A word as it is known, or else the longest end of it that is: a Bratpfanne is a Pfanne. */
function findMet(words: Tally, { thing, written }: Clue): string {
  if (words.byThing.has(thing)) return thing;
  for (let at = shortestBefore; at <= written.length - shortestPart; at++) {
    const end = toRoot(written.slice(at));
    if (words.byThing.has(end)) return end;
  }
  return thing;
}

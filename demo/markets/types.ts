import type { SaidSource } from '@basileus/core/listing';

/** A market of the demo: its rulebook, and what people have decided there already. */
export interface DemoMarket {
  key: string;
  document: unknown;
  settings: { buffer: number; least: number };
  /** The key by which the market knows the house, where it knows sellers by one. */
  secret?: string;
  /** The name by which it knows the house, where there is one. */
  user?: string;
  /** Attributes that have the same text for every item. */
  texts: readonly (readonly [attribute: string, text: string])[];
  /** What else fills attributes, where the market's tree asks for something of its own. */
  sources?: readonly SaidSource[];
  /** The market's category by our own, where somebody has chosen one. */
  categories: ReadonlyMap<string, string>;
  /** Sites where the items of a category of ours are not sold. */
  sitesOut?: Readonly<Record<string, readonly string[]>>;
  /** What was typed for some items of a category. */
  typed: Readonly<Record<string, Readonly<Record<string, string | readonly string[]>>>>;
}

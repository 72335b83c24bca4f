// The rulebook format: a market's rules as data. docs/rulebook-format.md explains every field for authors.
import { z } from 'zod';
import { isKnownCurrency, isKnownTimeZone } from '../quantity';
import { attributeShape, offer, parcel, pictures, roles } from './schema-attributes';
import { amount, code, condition, demand, key, label, labels, language } from './schema-basics';
import { answer, form, lists, operationTerms, stateTerms } from './schema-forms';
import { transport } from './schema-transport';
import { operations } from './terms';

export type { Circumstance, Condition } from './schema-basics';
export type { AnswerTerms, Container, Encoding, Form, Holds, OperationTerms, Slot } from './schema-forms';
export type { Found, HttpTransport, Quota, SftpTransport, Transport } from './schema-transport';

/** One entry of a market may be sold in several places, each with its own currency, language and tax. */
const site = z.strictObject({
  key: z.string().regex(/^[a-z][a-z0-9]*$/, 'The key of a site is small letters and digits.'),
  name: label,
  country: z.string().regex(/^[A-Z]{2}$/),
  currency: z.string().refine(isKnownCurrency, 'Unknown currency; use an ISO 4217 code.'),
  languages: z.array(language).min(1),
  timeZone: z.string().refine(isKnownTimeZone, 'Unknown time zone; use a name such as Europe/Berlin.').default('UTC'),
  pricesInclude: z.enum(['tax', 'no-tax']),
  /** True where an entry need not be sold here: what is empty of it here stands only at the others. */
  optional: z.boolean().default(false),
  /** The last whose condition holds counts. */
  taxes: z.array(z.strictObject({ rate: amount, when: condition.optional() })).min(1),
});

const attribute = z.strictObject({
  ...attributeShape,
  labels,
  /** Keys that it had in earlier versions: what stands under them goes along. */
  was: z.array(key).optional(),
  /** One value in all, one a language of the market, or one a site. */
  by: z.enum(['language', 'site']).optional(),
});

/** A node of the tree. Demands and axes of a node hold for all below it; what a lower node says comes later. */
const category = z.strictObject({
  key,
  /** Keys that it had in earlier versions. */
  was: z.array(key).optional(),
  code: code.optional(),
  label,
  labels,
  parent: key.optional(),
  takesItems: z.boolean().default(false),
  words: z.array(z.string()).default([]),
  /** Named sets of demands that hold here. */
  uses: z.array(key).default([]),
  demands: z.array(demand).default([]),
  axes: z.array(key).default([]),
  /** What attributes may hold here, where that is less than elsewhere: some of their codes, fewer characters or entries. */
  limits: z
    .array(
      z.strictObject({
        attribute: key,
        codes: key.optional(),
        maxCharacters: z.int().positive().optional(),
        maxItems: z.int().positive().optional(),
      }),
    )
    .default([]),
  /** Why the market would rather have another category, where it would. */
  discouraged: z.string().optional(),
});

const fees = z.strictObject({
  /** The sites where these fees are asked; all where none is named. */
  sites: z.array(z.string()).optional(),
  category: key.optional(),
  tiers: z.array(z.strictObject({ upTo: amount.optional(), rate: amount })).min(1),
  minimum: amount.default('0'),
  paymentRate: amount.default('0'),
  fixed: amount.default('0'),
});

/** The whole document. Cross references are checked in `parseRulebook`, with the path of what is wrong. */
export const rulebookSchema = z.strictObject({
  format: z.literal('basileus-rulebook/2'),
  version: z.string().regex(/^\d{4}\.\d{2}(\.\d+)?$/, 'A version is year.month, such as 2026.10.'),
  market: z.strictObject({ key, name: label, languages: z.array(language).min(1) }),
  sites: z.array(site).min(1),
  sku: z.strictObject({
    min: z.int().positive(),
    max: z.int().positive(),
    allowed: z.enum(['letters-digits', 'letters-digits-marks', 'printable']),
    upperCaseOnly: z.boolean().default(false),
    /** Whether the SKU of an entry that was taken down can be used again. */
    reuse: z.enum(['free', 'never']).default('free'),
  }),
  codeLists: z.record(
    key,
    z.strictObject({
      label,
      labels,
      entries: z
        .array(
          z.strictObject({ code, was: z.array(code).optional(), label, labels, also: z.array(z.string()).default([]) }),
        )
        .min(1),
    }),
  ),
  groups: z.array(z.strictObject({ key, label, labels })).min(1),
  attributes: z.array(attribute).min(1),
  demandSets: z.record(key, z.array(demand)).default({}),
  demands: z.array(demand),
  tree: z.array(category).min(1),
  families: z.strictObject({
    /** Whether the family has a row of its own in the files, none, or is the record in which its variants stand. */
    parents: z.enum(['rows', 'none', 'inside']).default('rows'),
    /** Variants that one family may have. */
    maxVariants: z.int().positive().optional(),
    parentsCarryIdentifiers: z.boolean().default(false),
    maxAxes: z.int().positive().default(2),
  }),
  roles,
  offer,
  pictures,
  parcel: parcel.default({}),
  /** Which attribute says the unit of the price per unit, and by its codes what the unit is of which attribute's content. */
  unitPrice: z
    .strictObject({
      attribute: key,
      units: z.record(z.string(), z.strictObject({ of: key, per: z.enum(['kg', 'l', 'm', 'piece']) })),
    })
    .optional(),
  /** Words that no text may hold, in all languages or by language. */
  text: z.strictObject({
    promotionalWords: z.union([z.array(z.string()), z.record(language, z.array(z.string()))]).default([]),
  }),
  fees: z.array(fees).min(1),
  operations: z.partialRecord(z.enum(operations), operationTerms),
  forms: z.array(form).min(1),
  answers: z.array(answer).min(1),
  codes: z.record(z.string(), z.strictObject({ says: z.string(), remedy: z.string() })),
  lists,
  states: z.record(z.string(), stateTerms),
  transport,
});

/** A rulebook as its author wrote it. */
export type RulebookDocument = z.output<typeof rulebookSchema>;
/** The same before what it leaves open is filled in. */
export type RulebookDraft = z.input<typeof rulebookSchema>;
export type Site = RulebookDocument['sites'][number];
export type RulebookCategory = RulebookDocument['tree'][number];
export type Demand = RulebookDocument['demands'][number];
export type Limit = RulebookCategory['limits'][number];
export type CodeList = RulebookDocument['codeLists'][string];

/** Which one of an attribute's values a field holds, where there is one a language or a site. */
export interface Facet {
  /** The attribute's own key. */
  of: string;
  language?: string;
  site?: string;
}
export type RulebookAttribute = RulebookDocument['attributes'][number] & { facet?: Facet };

type Roles = RulebookDocument['roles'];
/** Fields of an offer: one at each site where prices are by site, else one in all, at the first site. */
export type Offer = Pick<Roles, 'price' | 'salePrice' | 'saleStart' | 'saleEnd' | 'floor' | 'ceiling'> & { site: Site };
/** A rulebook made ready: attributes spread out into flat fields, `titel@sv` for one a language, and roles with them. */
export interface Rulebook extends Omit<RulebookDocument, 'attributes'> {
  attributes: RulebookAttribute[];
  offers: Offer[];
  /** The title in each language in which there is one. */
  titles: { field: string; language: string }[];
}

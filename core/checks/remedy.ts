import { applyChanges, compareValues, type FieldChange } from '../change/change';
import type { Listing, Value } from '../listing/values';
import type { CheckContext, Finding, Remedy } from './finding';
import type { CategoryChecker } from './run';
import type { CauseKey } from './word';

/** The change that a mechanical remedy makes; undefined for those that need a person's answer. */
export function toFieldChange(remedy: Remedy, values: Listing['values']): FieldChange | undefined {
  if (remedy.kind === 'set') return { field: remedy.field, before: values[remedy.field] ?? null, after: remedy.value };
  if (remedy.kind === 'clear') return { field: remedy.field, before: values[remedy.field] ?? null, after: null };
  return undefined;
}

/** How sure the first remedy of a finding is: mechanical and safe, mechanical and only likely, or a person's to give. */
export function getSureness(finding: Pick<Finding, 'remedies'>): 'safe' | 'likely' | 'none' {
  const first = finding.remedies[0];
  if (first?.kind !== 'set' && first?.kind !== 'clear') return 'none';
  return first.safe ? 'safe' : 'likely';
}

/** Rounds of mending after which remedies are taken to call for each other for ever. */
const mostRounds = 10;

export interface Mending {
  changes: FieldChange[];
  values: Listing['values'];
  /** False where remedies kept producing new ones. */
  settled: boolean;
  /** What is still said of the mended listing. */
  findings: Finding[];
}

/**
 * Applies the first mechanical remedy of each finding that `isWanted`, one per field a round, and checks again, at most
 * ten rounds. Pure: the listing given is not changed.
 */
export function mend(
  check: CategoryChecker,
  listing: Listing,
  context: CheckContext | undefined,
  isWanted: (finding: Finding) => boolean,
): Mending {
  let values = listing.values;
  for (let round = 0; ; round++) {
    const findings = check({ ...listing, values }, context);
    const touched = new Set<string>();
    const changes: FieldChange[] = [];
    for (const f of findings) {
      const change = isWanted(f) && f.remedies[0] ? toFieldChange(f.remedies[0], values) : undefined;
      if (!change || touched.has(change.field)) continue;
      touched.add(change.field);
      changes.push(change);
    }
    if (touched.size === 0 || round === mostRounds)
      return { values, findings, settled: touched.size === 0, changes: compareValues(listing.values, values) };
    values = applyChanges(values, changes);
  }
}

const isOf = (f: Finding, cause: CauseKey): boolean =>
  f.check === cause.check && f.message === cause.message && f.field === cause.field;
const keyOf = (f: Finding): string => `${f.check}/${f.message}/${f.field}`;

/** Blockers after a change that were not there before it. */
export const findNewBlockers = (before: readonly Finding[], after: readonly Finding[]): Finding[] => {
  const known = new Set(before.map(keyOf));
  return after.filter((f) => f.level === 'blocker' && !known.has(keyOf(f)));
};

export interface CauseMending {
  sureness: 'safe' | 'likely';
  changes: FieldChange[];
}

/**
 * How a listing's findings of one cause would be mended: by safe remedies where these settle all of them, else by likely
 * ones. Undefined where neither does, or where mending would put new blockers in their place: that is no remedy.
 */
export function mendCause(
  check: CategoryChecker,
  listing: Listing,
  context: CheckContext | undefined,
  cause: CauseKey,
): CauseMending | undefined {
  const before = check(listing, context);
  for (const sureness of ['safe', 'likely'] as const) {
    const outcome = mend(
      check,
      listing,
      context,
      (f) => isOf(f, cause) && (sureness === 'likely' ? getSureness(f) !== 'none' : getSureness(f) === 'safe'),
    );
    const isSettled = outcome.settled && !outcome.findings.some((f) => isOf(f, cause));
    if (isSettled && outcome.changes.length > 0 && findNewBlockers(before, outcome.findings).length === 0)
      return { sureness, changes: outcome.changes };
  }
  return undefined;
}

/** Blockers that one value for a listing's field would bring, whatever stood there before. */
export const tryChange = (
  check: CategoryChecker,
  listing: Listing,
  context: CheckContext | undefined,
  field: string,
  value: Value,
): Finding[] =>
  findNewBlockers(
    check(listing, context),
    check({ ...listing, values: { ...listing.values, [field]: value } }, context),
  );

/** What one value for a listing's field would leave: the cause that still stands there, and blockers that are new. */
export function tryValue(
  check: CategoryChecker,
  listing: Listing,
  context: CheckContext | undefined,
  cause: CauseKey,
  value: Value,
): Finding[] {
  const before = check(listing, context);
  const after = check({ ...listing, values: { ...listing.values, [cause.field]: value } }, context);
  const still = after.filter((f) => isOf(f, cause));
  return [...still, ...findNewBlockers(before, after).filter((f) => !still.includes(f))];
}

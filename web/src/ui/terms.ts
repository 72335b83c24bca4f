// The words of the trade that are kept as data, as people read them: states of listings and dispatches, operations.
import type { Level } from '@basileus/core/checks';
import type { DemandLevel, ListingState, Operation } from '@basileus/core/rulebook';
import { say } from './text';

export const stateNames: Readonly<Record<ListingState, string>> = {
  live: say`live`,
  'in review': say`in review`,
  sent: say`sent`,
  ready: say`ready`,
  blocked: say`blocked`,
  refused: say`refused`,
  draft: say`draft`,
  withdrawn: say`withdrawn`,
  'left out': say`left out`,
};

export const operationNames: Readonly<Record<Operation, string>> = {
  create: say`create`,
  offer: say`offer`,
  revise: say`revise`,
  replace: say`replace`,
  price: say`price`,
  stock: say`stock`,
  withdraw: say`withdraw`,
  restore: say`restore`,
};

export const levelNames: Readonly<Record<Level, string>> = {
  blocker: say`blocker`,
  caution: say`caution`,
  tip: say`tip`,
};

export const demandNames: Readonly<Record<DemandLevel, string>> = {
  must: say`must`,
  should: say`should`,
  may: say`may`,
  unused: say`unused`,
};

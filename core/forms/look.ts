// How a record looks in a nested container, branch by branch, for people who look before it goes.
import type { Form, Rulebook } from '../rulebook/schema';
import { type Cell, toEntries } from './containers';
import { parsePath, type Step } from './containers/path';
import type { FeedRecord } from './record';
import { prepareSlot } from './slot';

export interface LookedAtBranch {
  depth: number;
  name: string;
  /** What stands there; undefined for a branch that only holds others. */
  cell?: Cell;
  /** The attribute that it comes from, where it comes from one. */
  field?: string;
}

/** A step as people read it: an attribute by its sign, an element with what tells it from others. */
const nameOf = ({ name, told, isAttribute }: Step): string =>
  isAttribute ? `@${name}` : told ? `${name} ${told.as}` : name;

/** Looks at records of a form whose container is nested: branches in the order in which they are written. */
export function prepareLook(book: Rulebook, form: Form): (record: FeedRecord) => LookedAtBranch[] {
  const slots = form.slots.map((s) => ({
    steps: parsePath(s.key),
    attribute: 'attribute' in s.holds ? s.holds.attribute : undefined,
    write: prepareSlot(book, form, s).write,
  }));
  return (record) => {
    const branches: LookedAtBranch[] = [];
    let open: string[] = [];
    for (const { steps, attribute, write } of slots) {
      const cell = write(record);
      if (cell !== null && toEntries(cell).length === 0) continue;
      const above = steps.slice(0, -1).map(nameOf);
      const shared = above.findIndex((name, i) => open[i] !== name);
      for (let depth = shared < 0 ? above.length : shared; depth < above.length; depth++)
        branches.push({ depth, name: above[depth]! });
      // Attributes of an element that says something itself stand under it.
      open = [...above, nameOf(steps.at(-1)!)];
      const field = attribute?.endsWith('@') ? attribute + record.site.key : attribute;
      branches.push({
        depth: above.length,
        name: nameOf(steps.at(-1)!),
        cell,
        ...(field === undefined ? {} : { field }),
      });
    }
    return branches;
  };
}

// How a file looks to people who look before it goes: a table under our words for its columns, or each record as a tree.
import type { Form, Rulebook } from '../rulebook/schema';
import { readRows } from '../sheet/delimited';
import { readSheetText } from '../sheet/sheet-text';
import { listColumns } from './columns';
import { type Cell, delimiterSigns, hasColumns, toEntries } from './containers';
import { parsePath, type Step } from './containers/path';
import type { FeedRecord, FeedRow } from './record';
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

export interface LookedAtColumn {
  /** What it holds; the label of the field of ours where it is one, else empty; the place of the variant that it is of. */
  what: string;
  label: string;
  member: number | null;
}
export type FileLook =
  | {
      as: 'table';
      rows: string[][];
      /** How many of the rows are headers. */
      heads: number;
      columns: LookedAtColumn[];
      /** What divides the columns; null in a workbook. */
      delimiter: 'tab' | 'comma' | 'semicolon' | 'pipe' | null;
    }
  | {
      as: 'tree';
      container: 'json-lines' | 'json' | 'xml';
      records: {
        sku: string;
        branches: { depth: number; name: string; cell?: Cell | undefined; isChanged: boolean }[];
      }[];
    };

/** What each column of a form holds, in our words where it is a field of ours. */
function nameColumns(book: Rulebook, form: Form): LookedAtColumn[] {
  const labels = new Map(book.attributes.map((a) => [a.key, a.label]));
  const labelOf = (attribute: string): string =>
    labels.get(attribute.endsWith('@') ? attribute + book.sites[0]!.key : attribute) ?? attribute;
  return listColumns(form).map(({ holds, member }) => ({
    what: holds.what,
    label: 'attribute' in holds ? labelOf(holds.attribute) : '',
    member: member ?? null,
  }));
}

/** The look at a file of records whose text is at hand; `changedOf` names the fields of a row that are new to the market. */
export function lookAtFile(
  book: Rulebook,
  form: Form,
  text: string,
  records: readonly FeedRecord[],
  changedOf: (row: FeedRow) => ReadonlySet<string> | undefined,
): FileLook {
  const { container } = form;
  if (hasColumns(container))
    return {
      as: 'table',
      rows:
        container.kind === 'workbook'
          ? (readSheetText(text) ?? [])
          : readRows(text, delimiterSigns[container.delimiter]),
      heads: container.heads.length,
      columns: nameColumns(book, form),
      delimiter: container.kind === 'workbook' ? null : container.delimiter,
    };
  const look = prepareLook(book, form);
  return {
    as: 'tree',
    container: container.kind,
    records: records.map((record) => ({
      sku: record.row.sku,
      branches: look(record).map(({ field, ...branch }) => ({
        ...branch,
        isChanged: field !== undefined && (changedOf(record.row)?.has(field) ?? false),
      })),
    })),
  };
}

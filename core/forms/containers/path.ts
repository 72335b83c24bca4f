// Where a slot stands in a nested record: `say.name`, `say.points[]` for the entries of a list, `notes[].id` for one thing
// of each entry.
export interface Step {
  name: string;
  /** True where there are several of it. */
  isMany: boolean;
}

/** Names are letters, digits, hyphens and underscores; points divide them. */
export const pathPattern = /^[A-Za-z_][\w-]*(\[\])?(\.[A-Za-z_][\w-]*(\[\])?)*$/;

export const parsePath = (path: string): Step[] =>
  path.split('.').map((part) => ({ name: part.replace('[]', ''), isMany: part.endsWith('[]') }));

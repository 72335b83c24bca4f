// Where a slot stands in a nested record. In JSON: `say.name`, `say.points[]` for the entries of a list, `notes[].id` for one
// thing of each entry. In XML also `@ref` for an attribute and `fact[name=colour]` for the element that carries one.
export interface Step {
  name: string;
  /** True where there are several of it. */
  isMany: boolean;
  /** The attribute by which an element of XML is told from others of its name. */
  told?: { by: string; as: string };
  /** True for an attribute of XML. */
  isAttribute?: boolean;
}

/** Names are letters, digits, hyphens and underscores; points divide them. */
export const jsonPathPattern = /^[A-Za-z_][\w-]*(\[\])?(\.[A-Za-z_][\w-]*(\[\])?)*$/;
export const xmlPathPattern =
  /^(?:[A-Za-z_][\w-]*(?:\[[A-Za-z_][\w-]*=[\w-]+\])?(?:\[\])?(?:\.(?!$)|$))*(?:@[A-Za-z_][\w-]*)?$/;

/** True for a path of either kind. */
export const isPath = (text: string): boolean =>
  text !== '' && !text.endsWith('.') && (jsonPathPattern.test(text) || xmlPathPattern.test(text));

const step = /^(@?)([\w-]+)(?:\[([\w-]+)=([\w-]+)\])?(\[\])?$/;

export const parsePath = (path: string): Step[] =>
  path.split('.').map((part): Step => {
    const [, at, name = part, by, as, many] = step.exec(part) ?? [];
    return {
      name,
      isMany: many !== undefined,
      ...(by === undefined ? {} : { told: { by, as: as! } }),
      ...(at === '@' ? { isAttribute: true } : {}),
    };
  });

/** Things by texts of theirs, made once for a file, so that who asks for one need not go through all. */
export interface IndexBy<T> {
  add: (thing: T) => void;
  /**
   * What had the text when it was added. What has changed since stands under its old text too, so who asks compares again.
   */
  among: (text: string) => readonly T[];
}

/** `textsOf` names each kind of text, such as `code 0123`; a text without its second part is not looked for. */
export function indexBy<T>(things: Iterable<T>, textsOf: (thing: T) => readonly string[]): IndexBy<T> {
  const by = new Map<string, Set<T>>();
  const add = (thing: T): void => {
    for (const text of textsOf(thing)) (by.get(text) ?? by.set(text, new Set()).get(text)!).add(thing);
  };
  for (const thing of things) add(thing);
  return { add, among: (text) => [...(by.get(text) ?? [])] };
}

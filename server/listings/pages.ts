// Work that is done page by page, in this thread and in one beside it.
const pagesAtOnce = 2;
type PageWork<T> = (page: readonly number[]) => Promise<T>;

/**
 * Works through ids in pages: some here, so that while the database is busy with one another is computed, and as many in the
 * thread beside, where there is one. `told` hears what came of each.
 */
export async function eachPage<T>(
  ids: readonly number[],
  size: number,
  { here, there }: { here: PageWork<T>; there: PageWork<T> | undefined },
  told: (outcome: T, page: readonly number[]) => Promise<void>,
): Promise<void> {
  let next = 0;
  const run = async (work: PageWork<T>): Promise<void> => {
    while (next < ids.length) {
      const page = ids.slice(next, (next += size));
      await told(await work(page), page);
    }
  };
  const works = [here, ...(there ? [there] : [])].flatMap((work) => Array.from({ length: pagesAtOnce }, () => work));
  await Promise.all(works.map(run));
}

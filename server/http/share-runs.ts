/**
 * Shares the work of a question that many ask at once, as every open page does after every event. Who asks while it is being
 * answered gets the answer of the run after that, together with all others who wait for it: nobody is told what was read before
 * they asked, and no question is worked on twice at a time.
 */
export function shareRuns<T>(load: (key: string) => Promise<T>): (key: string) => Promise<T> {
  const lanes = new Map<string, { running: Promise<T>; next?: Promise<T> }>();
  const run = (key: string): Promise<T> => {
    const lane: { running: Promise<T>; next?: Promise<T> } = { running: load(key) };
    lanes.set(key, lane);
    const end = (): void => {
      if (lane.next === undefined) lanes.delete(key);
    };
    lane.running.then(end, end);
    return lane.running;
  };
  return (key) => {
    const lane = lanes.get(key);
    if (!lane) return run(key);
    const again = (): Promise<T> => run(key);
    return (lane.next ??= lane.running.then(again, again));
  };
}

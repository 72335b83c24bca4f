import { say } from '../ui/text';
/** When something is tried again by itself, and how often it has been in vain. */
export function wordRetry({ at, failed }: { at: string; failed: number }, now: number): string {
  const seconds = Math.round((Date.parse(at) - now) / 1000);
  const when =
    seconds < 5
      ? say`in a moment`
      : seconds < 90
        ? say`in ${seconds} seconds`
        : say`in ${Math.round(seconds / 60)} minutes`;
  return say`It is tried again by itself ${when}${failed > 1 ? say` (${failed} tries so far)` : ''}.`;
}

/** When something is tried again by itself, and how often it has been in vain. */
export function wordRetry({ at, failed }: { at: string; failed: number }, now: number): string {
  const seconds = Math.round((Date.parse(at) - now) / 1000);
  const when =
    seconds < 5 ? 'in a moment' : seconds < 90 ? `in ${seconds} seconds` : `in ${Math.round(seconds / 60)} minutes`;
  return `It is tried again by itself ${when}${failed > 1 ? ` (${failed} tries so far)` : ''}.`;
}

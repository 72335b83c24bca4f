/** The version of a rulebook that follows another: the month of a day, and within one month the next number. */
export function nextVersion(day: Date, before?: string): string {
  const month = `${day.getFullYear()}.${String(day.getMonth() + 1).padStart(2, '0')}`;
  if (before === undefined || before < month) return month;
  const [year = '', last = '', number = '1'] = before.split('.');
  return `${year}.${last}.${Number(number) + 1}`;
}

// Days as workbooks count them.
/** The last day that a spreadsheet knows: 9999-12-31. */
const lastSerial = 2_958_465;

/**
 * Day number of a workbook as an ISO date (and time where there is one), or undefined where the number is no day.
 * Source: ECMA-376 part 1, 18.17.4.
 */
export function fromSerialDate(serial: number, epoch1904: boolean): string | undefined {
  if (!(serial >= 0 && serial <= lastSerial)) return undefined;
  const days = Math.floor(serial) + (epoch1904 ? 1462 : 0);
  const secs = Math.round((serial - Math.floor(serial)) * 86400);
  let z = days - 25569 + 719468;
  const era = Math.floor(z / 146097);
  z -= era * 146097;
  const yoe = Math.floor((z - Math.floor(z / 1460) + Math.floor(z / 36524) - Math.floor(z / 146096)) / 365);
  const doy = z - (365 * yoe + Math.floor(yoe / 4) - Math.floor(yoe / 100)),
    mp = Math.floor((5 * doy + 2) / 153);
  const d = doy - Math.floor((153 * mp + 2) / 5) + 1,
    m = mp < 10 ? mp + 3 : mp - 9,
    y = yoe + era * 400 + (m <= 2 ? 1 : 0);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${y}-${two(m)}-${two(d)}${secs ? ` ${two(Math.floor(secs / 3600))}:${two(Math.floor(secs / 60) % 60)}` : ''}`;
}

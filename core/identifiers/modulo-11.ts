/** Check character modulo 11 with weights n+1..2 from the left; ten is written X. Source: ISO 2108, ISO 3297. */
export function computeModulo11(digits: string): string {
  let sum = 0;
  for (let i = 0; i < digits.length; i++) sum += (digits.charCodeAt(i) - 48) * (digits.length + 1 - i);
  const rest = (11 - (sum % 11)) % 11;
  return rest === 10 ? 'X' : String(rest);
}

// docs/formulas.md is made of the functions themselves: `npx vitest run --project unit core/formula/docs.test.ts -u`.
import { expect, it } from 'vitest';
import { formulaFunctions } from '.';

const groups = [...new Set(formulaFunctions.map((f) => f.group))];
const takes = (f: (typeof formulaFunctions)[number]): string => {
  const names = f.takes.map((a, i) => (i >= (f.least ?? f.takes.length) ? `[${a.name}]` : a.name));
  return `${f.name}(${[...names, ...(f.further ? ['…'] : [])].join(', ')})`;
};

it('the functions are written down with an example each', async () => {
  const tables = groups.map(
    (group) =>
      `## ${group}\n\n| Function | What it gives | Example | Result |\n| --- | --- | --- | --- |\n${formulaFunctions
        .filter((f) => f.group === group)
        .map((f) => `| \`${takes(f)}\` | ${f.about} | \`${f.example.replaceAll('|', '\\|')}\` | ${f.result} |`)
        .join('\n')}`,
  );
  const text = `# Formulas

A formula works out a value for each item: \`ending(margin([Cost], 40%), .99)\`. An equals sign before it is not needed.

- **Fields** stand in square brackets, by their label: \`[Price]\`, \`[Title (German)]\`. Texts stand between double quotes, one inside them is doubled. Numbers have a point; \`15%\` is 0.15.
- **Signs**, the tightest first: \`%\`; \`*\` \`/\`; \`+\` \`-\`; \`&\` joins texts; \`=\` \`<>\` \`<\` \`<=\` \`>\` \`>=\` compare, texts without regard to case, measures whatever their unit. A day plus a number is so many days on; a day less a day is their number.
- **Empty is not zero.** What is reckoned with nothing is nothing, and a formula that gives nothing leaves the cell as it is. Joined with \`&\`, nothing is no text. Compared, nothing is equal to nothing alone, neither over nor under anything.
- Numbers are exact decimals. An amount is rounded half up to the places of its currency when it is written.
- At most 2,000 characters, brackets 40 deep. What a row cannot give (a division by zero, a text that is no number) leaves that row alone, with the reason.

${tables.join('\n\n')}
`;
  await expect(text).toMatchFileSnapshot('../../docs/formulas.md');
});

/**
 * A key by which texts stand in the order in which people count, compared byte by byte: KET-2 before KET-10. Each run of
 * figures is led by how many it has, leading zeros aside; case and width make no difference.
 */
export const toNaturalKey = (text: string): string =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/\d+/g, (run) => {
      const figures = run.replace(/^0+(?=\d)/, '');
      return String.fromCharCode(0x30 + Math.min(figures.length, 9)) + figures;
    });

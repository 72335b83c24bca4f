/** An entry of another seller. */
export interface Other {
  number: string;
  name: string;
  maker: string;
  barcode: string;
  shelf: string;
  facts: Readonly<Record<string, string>>;
}

/** What others have sold here from the first. */
export const standing: readonly Other[] = [
  {
    number: 'W900001',
    name: 'Sadaf Glass Teapot',
    maker: 'Sadaf',
    barcode: '9529990000018',
    shelf: 'HT-TPT',
    facts: {},
  },
  {
    number: 'W900002',
    name: 'Sadaf Coffee Cups',
    maker: 'Sadaf',
    barcode: '9529990000025',
    shelf: 'HT-MUG',
    facts: {},
  },
  // Goods of houses that sell to many: some of them stand here already.
  {
    number: 'W900003',
    name: 'Tallow Lane Sponge 2 Tin, 20 cm',
    maker: 'Tallow Lane',
    barcode: '9520000008819',
    shelf: 'HC-TIN',
    facts: { material: 'alu', across: '200 mm' },
  },
  {
    number: 'W900004',
    name: 'Tallow Lane Sponge 2 Tin, 24 cm',
    maker: 'Tallow Lane',
    barcode: '9520000008833',
    shelf: 'HC-TIN',
    facts: { material: 'alu', across: '24 cm' },
  },
  {
    number: 'W900005',
    name: 'Dune 2 Bowl, Grey',
    maker: 'Saltern Pottery',
    barcode: '9520000012199',
    shelf: 'HT-BWL',
    facts: { colour: 'grey', material: 'stone', across: '16 cm' },
  },
  {
    number: 'W900006',
    name: 'Sadaf Bowl, Blue',
    maker: 'Sadaf',
    barcode: '9520000012205',
    shelf: 'HT-BWL',
    facts: { colour: 'blue', material: 'stone' },
  },
];

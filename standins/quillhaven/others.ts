/** An entry of another seller. */
export interface Other {
  number: string;
  title: string;
  brand: string;
  itemNumber: string;
  shelf: string;
  colour?: string;
  material?: string;
  diameter?: string;
}

/** What others have sold here from the first: goods of houses that sell to many. */
export const standing: readonly Other[] = [
  {
    number: 'Q600001',
    title: 'Forge 2 Frying Pan, 30 cm',
    brand: 'Oakmere & Daughter',
    itemNumber: '9520000007737',
    shelf: 'frying_pans',
    material: 'castiron',
    diameter: '30 cm',
  },
  {
    number: 'Q600002',
    title: 'Dune 2 Bowl, White',
    brand: 'Saltern Pottery',
    itemNumber: '9520000012182',
    shelf: 'bowls',
    colour: 'wht',
    material: 'stonew',
    diameter: '160 mm',
  },
];

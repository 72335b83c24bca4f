// How Brindlewick has put its categories in order, and what it says of its fields beside what every house starts with.

/** Own categories by the one that they stand under. */
export const demoTree: Readonly<Record<string, readonly string[]>> = {
  Cookware: ['Frying pans', 'Griddles', 'Woks', 'Saucepans', 'Stock pots', 'Casseroles', 'Stove kettles'],
  Ovenware: ['Roasting', 'Baking tins', 'Pie dishes'],
  'Knives and tools': ['Kitchen knives', 'Boards', 'Sharpening', 'Wooden tools', 'Graters', 'Measuring', 'Colanders'],
  'Tea and coffee': ['Loose tea', 'Tea bags', 'Coffee', 'Coffee presses', 'Teapots'],
  Tableware: ['Mugs', 'Plates', 'Bowls', 'Glasses', 'Carafes', 'Cutlery', 'Vases'],
  Linen: ['Tablecloths', 'Napkins', 'Tea towels', 'Aprons'],
  'Small electrical': ['Kettles', 'Toasters', 'Blenders', 'Milk frothers', 'Scales'],
  'Books and papers': ['Cookbooks', 'Magazines'],
  Larder: ['Preserves'],
};

/** Fields that only some categories have. */
export const demoFieldCategories: Readonly<Record<string, readonly string[]>> = {
  author: ['Books and papers'],
  pages: ['Books and papers'],
  binding: ['Books and papers'],
  published: ['Books and papers'],
  language: ['Books and papers'],
  blend: ['Tea and coffee'],
  best_before_days: ['Tea and coffee', 'Larder'],
  induction: ['Cookware'],
};

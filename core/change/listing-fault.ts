/** Why a field of a listing cannot be changed: `not-in-rows` where it stands in other rows of a family than that of the item. */
export type ListingFault =
  | { kind: 'not-on-market' }
  | { kind: 'worked-out' }
  | { kind: 'no-category' }
  | { kind: 'not-in-category'; category: string }
  | { kind: 'not-in-rows'; of: 'variants' | 'family' };

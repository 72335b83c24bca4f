/** A name in one word taken apart where a small letter meets a capital: `itemName` is `item Name`. */
export const splitWords = (text: string): string => text.replace(/([a-z0-9])([A-Z])/g, '$1 $2');

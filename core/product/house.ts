// What the house itself writes and reckons in; what a market wants otherwise has a field of its own.
export const houseLanguage = 'en';
export const houseCurrency = 'GBP';

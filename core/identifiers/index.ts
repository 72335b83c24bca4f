export * from './gtin';
export * from './isbn';
export * from './issn';
export * from './kind';
export * from './sku';

export * from './encoding';
export * from './delimited';
export * from './workbook';
export * from './fields';
export * from './damage';
export * from './understand';
export * from './plan';

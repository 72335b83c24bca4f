export * from './decimal';
export * from './money';
export * from './read-measure';
export * from './read-number';
export * from './unit';
export * from './usual';
export * from './read-date';
export * from './moment';

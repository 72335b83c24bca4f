export * from './house';
export * from './build';
export { type Line, lines } from './lines';
export { createRandom } from './random';

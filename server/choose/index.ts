export { loadChoice } from './choices';
export { addChoiceRoutes } from './routes';
export { toListSql, toNumberSql, toTextSql } from './sql';
export { loadValues } from './values';
export { countWhich, toWhichSql } from './which';

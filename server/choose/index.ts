export { loadChoice } from './choices';
export { loadWideFields } from './fields';
export { addChoiceRoutes } from './routes';
export { toListSql, toNumberSql, toTextSql } from './sql';
export { loadValues } from './values';
export { countWhich, toWhichSql } from './which';

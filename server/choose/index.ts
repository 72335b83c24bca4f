export { loadChoice } from './choices';
export { addChoiceRoutes } from './routes';
export { countWhich, toWhichSql } from './which';

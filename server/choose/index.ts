export { countWhich, toWhichSql } from './which';

export { loadChoice } from './choices';
export { loadWideFields } from './fields';
export {
  findComingFault,
  findListingFault,
  groupByMarket,
  heldBy,
  type Listed,
  loadListedValues,
  loadListings,
} from './listed';
export { addChoiceRoutes } from './routes';
export { listingsSql, toListSql, toNumberSql, toTextSql } from './held';
export { loadValues } from './values';
export { countWhich, toWhichSql } from './which';

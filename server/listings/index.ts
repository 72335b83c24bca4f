export { applyCategoryRules, loadOwnRules } from './categories';
export { refreshListings, refreshProducts, type Touch } from './follow-up';
export { lookUpJob, refreshMarketJob } from './jobs';
export { type Prepared, prepareRows } from './judge';
export { loadPictureFacts } from './picture-facts';
export { stateSql } from './queries';
export { refreshFamilyPage, refreshListingPage, refreshMarket } from './refresh';
export { addListingRoutes } from './routes';
export { listFedFields } from './shared-causes';
export { countTurnedAtSites, turnedAtSiteSql } from './sites';
export {
  categoryOf,
  type FullRow,
  isCurrent,
  loadFullRows,
  pricesNowSql,
  roleOf,
  staleSql,
  toListing,
  toOffered,
} from './rows';
export { patchListingCells } from './service';
export { setWanted } from './wanted';
export { loadStandings, toStandingSql } from './standings';
export { countStalePlanned, hasStale, markSharing, refreshLater, refreshStale } from './stale';
export {
  type CauseCount,
  loadCauseCounts,
  loadFilledCounts,
  loadOwnCounts,
  loadPlanCounts,
  loadStateCounts,
  loadMarginCounts,
  loadUnplaced,
} from './tallies';

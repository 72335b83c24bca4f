export { beginBulk, bulkChangeJob } from './apply';
export { countBulkNow, loadBulkRows } from './look';
export { recipeClockJob } from './recipes';
export { addBulkRoutes } from './routes';
export { tryBulkNow } from './try';
export { bulkTrialJob } from './trials';

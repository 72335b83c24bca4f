export { buildDispatchJob } from './build';
export { sendDispatchJob, watchShelf, watchShelfJob } from './jobs';
export { loadPlanTotals } from './plan';
export { addDispatchRoutes } from './routes';

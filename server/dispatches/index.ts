export { sendByClockJob, sendingClockJob, wakeSendingClock } from './by-clock';
export { buildDispatchJob } from './order';
export { countDrift } from './drift';
export { sendDispatchJob, watchShelf, watchShelfJob } from './jobs';
export { loadPlanTotals } from './plan';
export { addDispatchRoutes } from './routes';

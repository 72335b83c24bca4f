export { emptyFieldJob, moveCategoryJob } from './jobs';
export { addOwnRoutes } from './routes';

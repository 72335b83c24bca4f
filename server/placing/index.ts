export { lookForLeavesJob, placeItemsJob } from './jobs';
export { addPlacingRoutes } from './routes';

export { lookAtNew } from './ask';
export { lookForLeavesJob, placeItemsJob } from './jobs';
export { addPlacingRoutes } from './routes';

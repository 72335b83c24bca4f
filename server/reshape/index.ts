export { removeItemsJob } from './remove';
export { addReshapeRoutes } from './routes';
export { removedRecord, takeOut } from './take-out';

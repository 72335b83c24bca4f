export { recordHistory } from './record';
export { addHistoryRoutes } from './routes';

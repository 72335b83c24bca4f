export { addConnectionRoutes } from './routes';

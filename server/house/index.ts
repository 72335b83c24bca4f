export { addHouseRoutes } from './routes';

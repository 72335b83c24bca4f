export { addPeopleRoutes } from './routes';

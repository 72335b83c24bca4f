export { addRulebookRoutes } from './routes';

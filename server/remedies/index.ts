export { tryFill, tryRemedies } from './remedies';
export { addRemedyRoutes } from './routes';

export { askOnListings, tryFill, tryOnListings, tryRemedies } from './remedies';
export { addRemedyRoutes } from './routes';

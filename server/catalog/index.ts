export { addCatalogRoutes } from './routes';
export { patchProductCells } from './service';

export { addRulebookRoutes } from './routes';
export { keepFamilyRows, readRulebookDocument } from './service';

export { addRulebookRoutes } from './routes';
export { keepFamilyRows, keepSpoken, readRulebookDocument } from './service';

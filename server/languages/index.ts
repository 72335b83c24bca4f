export { openLanguages } from './files';
export { createListener } from './listen';
export { addLanguageRoutes } from './routes';

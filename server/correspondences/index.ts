export { putCodes } from './codes';
export { addCorrespondenceRoutes } from './routes';
export { putSource } from './sources';

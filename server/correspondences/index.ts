export { putFieldSource, putValueCodes } from './correspondences';
export { addCorrespondenceRoutes } from './routes';

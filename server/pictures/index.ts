export { lookAtPicturesJob, wakePictures } from './job';
export { addPictureRoutes } from './routes';
export { askHost } from './hosts';

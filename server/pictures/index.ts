export { lookAtPicturesJob, wakePictures } from './job';
export { matchLinks } from './match';
export { addPictureRoutes } from './routes';
export { askHost } from './hosts';

export { exportClockJob } from './clock';
export { makeExportJob } from './make';
export { mustLoadExport } from './queries';
export { type Incoming, loadWentOut, recogniseExport } from './recognise';
export { addExportRoutes } from './routes';

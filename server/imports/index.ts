export { applyImportJob } from './apply';
export { importClockJob } from './timed';
export { planImportJob } from './plan';
export { readColumns, understandFile } from './read';
export { addImportRoutes } from './routes';
export { discard, ownReading, startWriting, takeIn, takePrepared } from './service';

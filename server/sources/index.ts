export { addSourceRoutes } from './routes';
export { runSourceJob, sourceClockJob } from './run';
export { tryRulesOn } from './try';

export { addSourceRoutes } from './routes';
export { runSourceJob, sourceClockJob, wakeClock as wakeSourceClock } from './run';
export { tryRulesOn } from './try';

export { lookAtDeed } from './reversal';
export { reverseSetJob } from './reverse';
export { addChangeRoutes } from './routes';

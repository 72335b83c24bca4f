export * from './change';
export * from './patch';
export * from './merge';
export * from './name';
export * from './bulk';
export * from './listing-fault';
export * from './operations';
export { wordRowProblem, wordStep, wordStepProblem } from './word';
export * from './schedule';

export * from './make';
export * from './morgenkrug';

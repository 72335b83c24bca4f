export * from './fold';
export * from './length';
export * from './contact';
export * from './decoration';
export * from './html';
export * from './similarity';
export * from './whole';
export * from './plural';

export * from './folders';
export * from './index-by';
export * from './memory';
export { makeHostKey, type SftpDoor } from './sftp';
export * from './serve';
export * from './works';

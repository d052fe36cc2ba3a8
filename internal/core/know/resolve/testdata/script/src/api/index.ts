export * from './types';
export { Client as Api, connect } from './client';  //@use Client @use connect
export { default } from './client';

export { Client, RefusedError } from './client';
export * from './types';

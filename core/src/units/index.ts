export * from './figure.ts';
export * from './instant.ts';

export * from './figure.ts';
export * from './instant.ts';
export * from './quantity.ts';
export * from './read-quantity.ts';
export * from './shop-clock.ts';
export * from './system.ts';
export * from './words.ts';
export * from './lists.ts';

export * from './alloy-balance.ts';
export * from './metal-need.ts';
export * from './metal-stock.ts';
export * from './shell-stock.ts';

export * from './alloys.ts';
export * from './balance.ts';
export * from './scale-weight.ts';
export * from './waxes.ts';

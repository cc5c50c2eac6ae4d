export * from './alloys.ts';
export * from './waxes.ts';

export * from './cast-pairs.ts';
export * from './first-pass.ts';
export * from './learned-lines.ts';
export * from './room-yields.ts';

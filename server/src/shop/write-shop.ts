import { writer } from '../write/write.ts';
import { projectTouched } from './project.ts';

/** Writes records of the shop: what was touched is kept ready anew in the same transaction. */
export const write = writer(projectTouched);

import { v4, v7 } from 'uuid';

/** A key for a form, made when it opens: the same form sent twice is written once. */
export const newKey = (): string => v4();

/** An id for a new record: the time in front, so that ids sort as they were made. */
export const newId = (): string => v7();

import type { Id } from '@kalvet/core';
import { v7 } from 'uuid';

/** A UUIDv7: its first 48 bits are the time, so that ids sort as they were made. */
export const newId = (nowMs: number = Date.now()): Id => v7({ msecs: nowMs });

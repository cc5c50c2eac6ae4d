import { statfsSync } from 'node:fs';
import type { Disk } from '@kalvet/core';
import { diskState } from '@kalvet/core';
import { Problem } from '../write/problem.ts';

/** Looks at the room left beside a folder, at most every two seconds. Nothing is known where the folder is not here. */
export function diskBeside(folder: string | undefined): () => Disk | null {
  let looked = 0;
  let found: Disk | null = null;
  return () => {
    if (!folder) return null;
    if (Date.now() - looked > 2_000) {
      looked = Date.now();
      try {
        const { bavail, bsize } = statfsSync(folder);
        const freeMb = Math.floor((bavail * bsize) / 1024 / 1024);
        found = { freeMb, state: diskState(freeMb) };
      } catch {
        found = null;
      }
    }
    return found;
  };
}

/** @throws Problem where there is no room for another record: reading goes on, and writing as soon as there is room */
export function roomToWrite(disk: Disk | null): void {
  if (disk?.state === 'full')
    throw new Problem(
      'unavailable',
      `The disk is full (${disk.freeMb} MB left): nothing can be recorded until there is room. What you typed is kept; nothing that was saved is lost.`,
    );
}

import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's own folder, wherever it was cloned to. */
export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
export const DIST = join(ROOT, 'dist');
export const DATA = process.env.KALVET_DATA ?? join(ROOT, '.data');

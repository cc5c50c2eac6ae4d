import { errnoOf } from './errno.ts';

const CONNECTION_LOST = new Set([1040, 1053, 1927, 1969, 2002, 2006, 2013, 45012, 45013, 45028]);

/** Whether an error says that the database cannot be reached, and nothing else. */
export function isAway(error: unknown): boolean {
  const { name, code } = error as { name?: string; code?: string };
  return (
    name?.startsWith('SequelizeConnection') === true ||
    name === 'SequelizeAccessDeniedError' ||
    CONNECTION_LOST.has(errnoOf(error) ?? 0) ||
    code === 'ECONNREFUSED' ||
    code === 'ECONNRESET'
  );
}

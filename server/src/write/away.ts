import { errnoOf } from './errno.ts';

/** Errors that say the database cannot be reached, or gave a statement up because it took too long. */
const AWAY = new Set([1040, 1053, 1927, 1969, 2002, 2006, 2013]);
const SOCKET = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTCONN']);

/** Whether an error says that the database cannot be reached, and nothing else. */
export function isAway(error: unknown): boolean {
  const { name, code, parent } = error as {
    name?: string;
    code?: string;
    parent?: { readonly fatal?: boolean; readonly code?: string };
  };
  const errno = errnoOf(error) ?? 0;
  return (
    name?.startsWith('SequelizeConnection') === true ||
    name === 'SequelizeAccessDeniedError' ||
    AWAY.has(errno) ||
    // The driver's own numbers, and whatever else ended a connection in the middle of a statement.
    (errno >= 45_000 && errno < 46_000) ||
    parent?.fatal === true ||
    SOCKET.has(code ?? '') ||
    SOCKET.has(parent?.code ?? '')
  );
}

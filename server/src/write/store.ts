import type { Sequelize } from 'sequelize';
import type { Models } from '../db/tables.ts';

/** Where the records are: one connection pool and its models. */
export interface Store {
  readonly db: Sequelize;
  readonly models: Models;
}

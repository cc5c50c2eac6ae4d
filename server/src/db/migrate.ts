import { QueryTypes } from 'sequelize';
import type { Sequelize } from 'sequelize';
import { Umzug } from 'umzug';
import type { Migration } from './migrations.ts';
import { MIGRATIONS } from './migrations.ts';

/** The oldest MariaDB that these tables were kept in. */
const OLDEST = [10, 6] as const;

/** What a program finds when it looks at a database before it works with it. */
export interface Shape {
  /** Migrations that are still to be carried out. */
  readonly pending: readonly string[];
  /** Migrations that this program does not know: a newer one was here. */
  readonly unknown: readonly string[];
  /** There is nothing yet. */
  readonly empty: boolean;
}

/**
 * Looks at a database without changing it.
 * @throws Error in words where it is not a MariaDB that can be used
 */
export async function shapeOf(db: Sequelize, migrations: readonly Migration[] = MIGRATIONS): Promise<Shape> {
  // Raw: asked before there is any table.
  const [said] = await db.query<{ version: string }>('SELECT VERSION() AS version', { type: QueryTypes.SELECT });
  const version = said?.version ?? '';
  const [major = 0, minor = 0] = version.split('.').map((part) => Number.parseInt(part, 10));
  if (!version.includes('MariaDB') || major < OLDEST[0] || (major === OLDEST[0] && minor < OLDEST[1]))
    throw new Error(`the database says it is ${version}; Kalvet needs MariaDB ${OLDEST.join('.')} or newer`);
  const tables = await db.query<Record<string, string>>('SHOW TABLES', { type: QueryTypes.SELECT });
  const names = tables.map((row) => Object.values(row)[0]);
  const known = migrations.map(({ name }) => name);
  if (!names.includes('migration')) return { pending: known, unknown: [], empty: names.length === 0 };
  const rows = await db.query<{ name: string }>('SELECT name FROM migration', { type: QueryTypes.SELECT });
  const done = rows.map(({ name }) => name);
  return {
    pending: known.filter((name) => !done.includes(name)),
    unknown: done.filter((name) => !known.includes(name)),
    empty: done.length === 0,
  };
}

/**
 * Brings the database to the newest shape. Two servers starting at once take turns; one killed half-way is finished by
 * the next start, since every statement may run twice.
 * @returns the names of the migrations that were carried out
 * @throws Error in words where a newer program was here before: then nothing is touched
 */
export async function migrate(db: Sequelize, migrations: readonly Migration[] = MIGRATIONS): Promise<string[]> {
  const { unknown } = await shapeOf(db, migrations);
  if (unknown.length > 0)
    throw new Error(
      `these records were kept by a newer Kalvet (${unknown.join(', ')}). Use that one; this one would not understand them`,
    );
  // Two shops on one database server do not wait for one another.
  const lock = `kalvet-migrate-${db.getDatabaseName()}`.slice(0, 64);
  await db.query(
    'CREATE TABLE IF NOT EXISTS migration (name VARCHAR(120) NOT NULL PRIMARY KEY, at DATETIME(3) NOT NULL) ENGINE=InnoDB',
  );
  // Raw: tables are made here before there are models of them, and a named lock has no model.
  // The lock belongs to one connection, so everything runs inside one that is held for it.
  return db.transaction(async (transaction) => {
    const [got] = await db.query<{ locked: number }>('SELECT GET_LOCK(?, 60) AS locked', {
      replacements: [lock],
      type: QueryTypes.SELECT,
      transaction,
    });
    if (got?.locked !== 1) throw new Error('another start is still migrating this database');
    try {
      const umzug = new Umzug({
        migrations: migrations.map(({ name, statements }) => ({
          name,
          up: async () => {
            for (const statement of statements) await db.query(statement);
          },
        })),
        storage: {
          executed: async () => {
            const rows = await db.query<{ name: string }>('SELECT name FROM migration ORDER BY name', {
              type: QueryTypes.SELECT,
            });
            return rows.map(({ name }) => name);
          },
          logMigration: async ({ name }) => {
            await db.query('INSERT IGNORE INTO migration VALUES (?, UTC_TIMESTAMP(3))', {
              replacements: [name],
            });
          },
          unlogMigration: async () => {
            throw new Error('migrations go forward only');
          },
        },
        logger: undefined,
      });
      return (await umzug.up()).map(({ name }) => name);
    } finally {
      await db.query('SELECT RELEASE_LOCK(?)', { replacements: [lock], type: QueryTypes.SELECT, transaction });
    }
  });
}

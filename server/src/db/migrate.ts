import { QueryTypes } from 'sequelize';
import type { Sequelize } from 'sequelize';
import { Umzug } from 'umzug';
import type { Migration } from './migrations.ts';
import { MIGRATIONS } from './migrations.ts';

/**
 * Brings the database to the newest shape. Two servers starting at once take turns; one killed half-way is finished by
 * the next start, since every statement may run twice.
 * @returns the names of the migrations that were carried out
 */
export async function migrate(db: Sequelize, migrations: readonly Migration[] = MIGRATIONS): Promise<string[]> {
  await db.query(
    'CREATE TABLE IF NOT EXISTS migration (name VARCHAR(120) NOT NULL PRIMARY KEY, at DATETIME(3) NOT NULL) ENGINE=InnoDB',
  );
  // Raw: tables are made here before there are models of them, and a named lock has no model.
  // The lock belongs to one connection, so everything runs inside one that is held for it.
  return db.transaction(async (transaction) => {
    const [got] = await db.query<{ locked: number }>("SELECT GET_LOCK('kalvet-migrate', 60) AS locked", {
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
      await db.query("SELECT RELEASE_LOCK('kalvet-migrate')", { type: QueryTypes.SELECT, transaction });
    }
  });
}

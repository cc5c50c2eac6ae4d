import { QueryTypes } from 'sequelize';
import { testStore } from '../testing/shop.ts';
import { connect } from './connection.ts';
import { migrate } from './migrate.ts';
import { MIGRATIONS } from './migrations.ts';

/** A database of its own beside the one of the other specs. */
async function fresh(name: string) {
  const store = await testStore();
  const url = new URL(process.env['KALVET_TEST_DB_URL']!);
  await store.db.query(`DROP DATABASE IF EXISTS ${name}`);
  await store.db.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  url.pathname = `/${name}`;
  return connect(url.href);
}

const shape = async (db: ReturnType<typeof connect>) =>
  (
    await db.query<{ line: string }>(
      "SELECT CONCAT(TABLE_NAME, '.', COLUMN_NAME, ' ', COLUMN_TYPE, ' ', IS_NULLABLE) AS line FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE() ORDER BY line",
      { type: QueryTypes.SELECT },
    )
  ).map(({ line }) => line);

describe('migrations', () => {
  it('come to the same shape wherever an earlier start was killed', async () => {
    const whole = await fresh('kalvet_whole');
    await migrate(whole);
    const wanted = await shape(whole);
    expect(wanted.length).toBeGreaterThan(150);
    const db = await fresh('kalvet_killed');
    const [first] = MIGRATIONS;
    for (const kept of [0, 1, 9, first!.statements.length - 1]) {
      // A start that was killed after so many statements leaves them done and the migration not written down.
      const cut = {
        name: first!.name,
        statements: [...first!.statements.slice(0, kept), 'SIGNAL SQLSTATE "45000"'],
      };
      await expectAsync(migrate(db, [cut])).toBeRejected();
    }
    expect(await migrate(db)).toEqual(MIGRATIONS.map(({ name }) => name));
    expect(await shape(db)).toEqual(wanted);
    expect(await migrate(db)).toEqual([]);
    await Promise.all([whole.close(), db.close()]);
  });

  it('are done once when two servers start together', async () => {
    const db = await fresh('kalvet_two');
    const done = await Promise.all([migrate(db), migrate(db)]);
    expect(done.map((names) => names.length).sort()).toEqual([0, MIGRATIONS.length]);
    await db.close();
  });

  it('hold a step to exactly one carrier', async () => {
    const { db } = await testStore();
    const insert =
      "INSERT INTO step (id, kind, sequence, state, `by`, readings, readingsVersion, note, flags) VALUES ('x', 'coat', 0, 'planned', '[]', '{}', 1, '', '[]')";
    await expectAsync(db.query(insert)).toBeRejectedWithError(/step_one_carrier/);
  });
});

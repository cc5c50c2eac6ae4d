// What the start script asks before it serves: prints as JSON what would be changed in the database of KALVET_DB_URL.
import { connect } from './db/connection.ts';
import { shapeOf } from './db/migrate.ts';

const db = connect(process.env['KALVET_DB_URL'] ?? '', { patient: true });
try {
  console.log(JSON.stringify(await shapeOf(db)));
} catch (error) {
  console.log(JSON.stringify({ trouble: (error as Error).message }));
} finally {
  await db.close();
}

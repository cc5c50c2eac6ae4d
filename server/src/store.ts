import { connect } from './db/connection.ts';
import { migrate } from './db/migrate.ts';
import { defineModels } from './db/tables.ts';
import { layPlanningDefaults } from './plan/defaults.ts';
import type { Store } from './write/store.ts';

/** Opens the records at a URL and brings them to the newest shape. */
export async function openStore(url: string): Promise<Store> {
  const patient = connect(url, { patient: true });
  try {
    await migrate(patient);
  } finally {
    await patient.close();
  }
  const db = connect(url);
  const models = defineModels(db);
  await layPlanningDefaults({ db, models });
  return { db, models };
}

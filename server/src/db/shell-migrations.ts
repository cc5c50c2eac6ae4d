import type { Migration } from './ddl.ts';
import { ID, INSTANT, ref, table, version } from './ddl.ts';

/** What the shell room keeps: the air that shells dry in, and where they hang. */
export const SHELL_MIGRATIONS: readonly Migration[] = [
  {
    name: '0025-climate',
    statements: [
      table(
        'drying_place',
        'name VARCHAR(120) NOT NULL',
        'kind VARCHAR(12) NOT NULL',
        'airflow DOUBLE NOT NULL',
        'hooks INT NOT NULL',
        'state VARCHAR(12) NOT NULL',
        version,
      ),
      // A reading a quarter of an hour and place, for years: the key is what it is looked up by.
      `CREATE TABLE IF NOT EXISTS climate_reading (placeId ${ID} NOT NULL, at ${INSTANT} NOT NULL, celsius DOUBLE NOT NULL, humidityPercent DOUBLE NOT NULL, source VARCHAR(8) NOT NULL, PRIMARY KEY (placeId, at), FOREIGN KEY (placeId) REFERENCES drying_place(id)) ENGINE=InnoDB`,
      "INSERT IGNORE INTO counter VALUES ('climate', 0)",
      table(
        'dryness_reading',
        ref('treeId', 'tree'),
        ref('stepId', 'step'),
        `at ${INSTANT} NOT NULL`,
        'means VARCHAR(12) NOT NULL',
        'dry BOOLEAN NOT NULL',
        'share DOUBLE NULL',
        'formulaShare DOUBLE NULL',
        'note VARCHAR(1000) NOT NULL',
        ref('byId', 'person', 'NULL'),
        'voidReason VARCHAR(500) NULL',
        version,
        'KEY (at)',
      ),
      'ALTER TABLE tree ADD COLUMN IF NOT EXISTS hangs JSON NULL',
      // A sensor of the air reads a drying place.
      `ALTER TABLE instrument ADD COLUMN IF NOT EXISTS ofId ${ID} NULL`,
      'ALTER TABLE instrument_now ADD COLUMN IF NOT EXISTS humidityPercent DOUBLE NULL',
    ],
  },
];

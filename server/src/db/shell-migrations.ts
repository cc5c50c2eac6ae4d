import type { Migration } from './ddl.ts';
import { ID, INSTANT, ref, table, version } from './ddl.ts';

/** What the shell room and the kiln keep: the air that shells dry in and where they hang, tanks, firings. */
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
      // The coat plan that a tree was joined under.
      'ALTER TABLE tree ADD COLUMN IF NOT EXISTS coatPlan JSON NULL',
      // A sensor of the air reads a drying place.
      `ALTER TABLE instrument ADD COLUMN IF NOT EXISTS ofId ${ID} NULL`,
      'ALTER TABLE instrument_now ADD COLUMN IF NOT EXISTS humidityPercent DOUBLE NULL',
    ],
  },
  {
    name: '0026-tanks',
    statements: [
      table(
        'tank',
        'name VARCHAR(120) NOT NULL UNIQUE',
        'slurry VARCHAR(12) NOT NULL',
        'litres DOUBLE NOT NULL',
        'leastShare DOUBLE NOT NULL',
        'densityGPerCm3 DOUBLE NOT NULL',
        'cup VARCHAR(120) NOT NULL',
        'lowS DOUBLE NULL',
        'highS DOUBLE NULL',
        'leastPh DOUBLE NULL',
        'checkEveryHours INT NOT NULL',
        'base JSON NULL',
        'state VARCHAR(12) NOT NULL',
        version,
      ),
      table(
        'tank_check',
        ref('tankId', 'tank'),
        `at ${INSTANT} NOT NULL`,
        'mixer VARCHAR(12) NOT NULL',
        'viscosityS DOUBLE NULL',
        'celsius DOUBLE NULL',
        'densityGPerCm3 DOUBLE NULL',
        'ph DOUBLE NULL',
        'level DOUBLE NULL',
        'sieved BOOLEAN NOT NULL',
        'toppedUp JSON NOT NULL',
        'note VARCHAR(1000) NOT NULL',
        ref('byId', 'person', 'NULL'),
        'voidReason VARCHAR(500) NULL',
        version,
        'KEY (tankId, at)',
      ),
      table(
        'tank_decision',
        ref('tankId', 'tank'),
        `at ${INSTANT} NOT NULL`,
        'coatsStand BOOLEAN NOT NULL',
        'words VARCHAR(1000) NOT NULL',
        ref('byId', 'person', 'NULL'),
        'voidReason VARCHAR(500) NULL',
        version,
      ),
      table(
        'supply',
        'what VARCHAR(20) NOT NULL',
        'kind VARCHAR(12) NOT NULL',
        'kg DOUBLE NOT NULL',
        'lot VARCHAR(60) NOT NULL',
        `at ${INSTANT} NOT NULL`,
        'note VARCHAR(1000) NOT NULL',
        ref('byId', 'person', 'NULL'),
        'voidReason VARCHAR(500) NULL',
        version,
      ),
      // What pushes hardest on a section's shell.
      'ALTER TABLE section ADD COLUMN IF NOT EXISTS shape JSON NULL',
      // Coats are looked for by when they were dipped.
      'ALTER TABLE step ADD INDEX IF NOT EXISTS step_kind_ended (kind, endedAt)',
    ],
  },
  {
    name: '0027-kiln',
    statements: [
      table(
        'kiln_profile',
        'name VARCHAR(120) NOT NULL',
        '`use` VARCHAR(12) NOT NULL',
        'stretches JSON NOT NULL',
        'state VARCHAR(12) NOT NULL',
        version,
      ),
      `ALTER TABLE kiln_load ADD COLUMN IF NOT EXISTS profileId ${ID} NULL`,
      'ALTER TABLE kiln_load ADD COLUMN IF NOT EXISTS waxBackKg DOUBLE NULL',
      'ALTER TABLE kiln_load ADD COLUMN IF NOT EXISTS energyKwh DOUBLE NULL',
      // Where a tree stands on the floor, and what room it takes there.
      'ALTER TABLE load_place ADD COLUMN IF NOT EXISTS floor JSON NULL',
      'ALTER TABLE tree ADD COLUMN IF NOT EXISTS footprint JSON NULL',
      // What its thermocouples read in a load, thinned.
      `CREATE TABLE IF NOT EXISTS kiln_reading (loadId ${ID} NOT NULL, channel VARCHAR(40) NOT NULL, at ${INSTANT} NOT NULL, celsius DOUBLE NOT NULL, PRIMARY KEY (loadId, channel, at), FOREIGN KEY (loadId) REFERENCES kiln_load(id)) ENGINE=InnoDB`,
    ],
  },
];

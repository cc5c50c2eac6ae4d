// Forward only. Each statement may run twice, since DDL commits itself and a migration can be killed between two.

const ID = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin';
const INSTANT = 'DATETIME(3)';

const table = (name: string, ...columns: string[]) =>
  `CREATE TABLE IF NOT EXISTS ${name} (id ${ID} NOT NULL PRIMARY KEY, ${columns.join(', ')}) ENGINE=InnoDB`;
const version = 'version INT NOT NULL DEFAULT 1';
const ref = (column: string, to: string, rest = 'NOT NULL') =>
  `${column} ${ID} ${rest}, FOREIGN KEY (${column}) REFERENCES ${to}(id)`;

export interface Migration {
  readonly name: string;
  readonly statements: readonly string[];
}

export const MIGRATIONS: readonly Migration[] = [
  {
    name: '0001-records',
    statements: [
      'CREATE TABLE IF NOT EXISTS counter (name VARCHAR(20) NOT NULL PRIMARY KEY, value BIGINT NOT NULL) ENGINE=InnoDB',
      ...['change', 'works', 'moulds', 'pulls', 'trees', 'loads', 'heats'].map(
        (name) => `INSERT IGNORE INTO counter VALUES ('${name}', 0)`,
      ),
      table(
        'person',
        'name VARCHAR(120) NOT NULL',
        'shortName VARCHAR(12) NOT NULL',
        'mayOverride BOOLEAN NOT NULL',
        'active BOOLEAN NOT NULL',
        version,
      ),
      'CREATE TABLE IF NOT EXISTS setting (name VARCHAR(60) NOT NULL PRIMARY KEY, value JSON NOT NULL) ENGINE=InnoDB',
      table(
        'work',
        'number INT NOT NULL UNIQUE',
        'code VARCHAR(6) NOT NULL UNIQUE',
        'title VARCHAR(200) NOT NULL',
        'artist VARCHAR(200) NOT NULL',
        'editionSize INT NOT NULL',
        'artistProofs INT NOT NULL',
        'alloyId VARCHAR(20) NOT NULL',
        'method VARCHAR(12) NOT NULL',
        'approval VARCHAR(12) NOT NULL',
        'finish VARCHAR(500) NOT NULL',
        'glyph VARCHAR(40) NOT NULL',
        'routeVersion INT NOT NULL',
        version,
      ),
      table(
        'section',
        ref('workId', 'work'),
        'ordinal INT NOT NULL',
        'name VARCHAR(120) NOT NULL',
        'method VARCHAR(12) NOT NULL',
        'wallMm DOUBLE NOT NULL',
        'metalHeightMm DOUBLE NULL',
        'expectedWaxKg DOUBLE NULL',
        'areaCm2 DOUBLE NULL',
        'seamM DOUBLE NULL',
        'deep BOOLEAN NOT NULL',
        version,
        'UNIQUE (workId, ordinal)',
      ),
      table(
        'piece',
        ref('workId', 'work'),
        'series VARCHAR(12) NOT NULL',
        'number INT NOT NULL',
        '`of` INT NOT NULL',
        'state VARCHAR(12) NOT NULL',
        'markInWax VARCHAR(40) NULL',
        'dueDate DATE NULL',
        'holdReason VARCHAR(500) NULL',
        'holdUntil DATE NULL',
        `deliveredAt ${INSTANT} NULL`,
        'routeVersion INT NOT NULL',
        version,
        'UNIQUE (workId, series, number)',
        'KEY (state)',
      ),
      table(
        'mould',
        'number INT NOT NULL UNIQUE',
        ref('workId', 'work'),
        'name VARCHAR(120) NOT NULL',
        'state VARCHAR(12) NOT NULL',
        'lifePulls INT NULL',
        'pullsBefore INT NOT NULL',
        version,
      ),
      `CREATE TABLE IF NOT EXISTS mould_section (${ref('mouldId', 'mould')}, ${ref('sectionId', 'section')}, PRIMARY KEY (mouldId, sectionId)) ENGINE=InnoDB`,
      table(
        'cast_',
        ref('sectionId', 'section'),
        ref('pieceId', 'piece'),
        'attempt INT NOT NULL',
        'state VARCHAR(12) NOT NULL',
        'lostRoom VARCHAR(12) NULL',
        'lostWhy VARCHAR(500) NULL',
        `lostAt ${INSTANT} NULL`,
        'recast BOOLEAN NOT NULL',
        version,
        'UNIQUE (pieceId, sectionId, attempt)',
      ),
      table(
        'pull',
        'number INT NOT NULL UNIQUE',
        ref('mouldId', 'mould'),
        `startedAt ${INSTANT} NOT NULL`,
        `endedAt ${INSTANT} NULL`,
        'wax VARCHAR(40) NOT NULL',
        'outcome VARCHAR(12) NULL',
        version,
      ),
      `CREATE TABLE IF NOT EXISTS pull_cast (${ref('pullId', 'pull')}, ${ref('castId', 'cast_')}, PRIMARY KEY (pullId, castId)) ENGINE=InnoDB`,
      table(
        'tree',
        'number INT NOT NULL UNIQUE',
        'alloyId VARCHAR(20) NOT NULL',
        'method VARCHAR(12) NOT NULL',
        'state VARCHAR(12) NOT NULL',
        version,
        'KEY (state)',
      ),
      table(
        'tree_cast',
        ref('treeId', 'tree'),
        ref('castId', 'cast_'),
        `since ${INSTANT} NULL`,
        `until ${INSTANT} NULL`,
        version,
      ),
      table(
        'kiln_load',
        'number INT NOT NULL UNIQUE',
        'purpose VARCHAR(12) NOT NULL',
        'state VARCHAR(12) NOT NULL',
        `startedAt ${INSTANT} NULL`,
        `endedAt ${INSTANT} NULL`,
        'profile VARCHAR(200) NOT NULL',
        'topC DOUBLE NULL',
        'reason VARCHAR(500) NULL',
        version,
      ),
      table(
        'load_place',
        ref('loadId', 'kiln_load'),
        ref('treeId', 'tree'),
        'outcome VARCHAR(20) NULL',
        version,
        'UNIQUE (loadId, treeId)',
      ),
      table(
        'heat',
        'number INT NOT NULL UNIQUE',
        'alloyId VARCHAR(20) NOT NULL',
        'state VARCHAR(12) NOT NULL',
        `plannedFor ${INSTANT} NULL`,
        'holdsKg DOUBLE NOT NULL',
        'usableKg DOUBLE NOT NULL',
        'meltLoss DOUBLE NOT NULL',
        'pigReserveKg DOUBLE NOT NULL',
        `startedAt ${INSTANT} NULL`,
        `endedAt ${INSTANT} NULL`,
        ref('leadId', 'person', 'NULL'),
        ref('coverConfirmedById', 'person', 'NULL'),
        `coverConfirmedAt ${INSTANT} NULL`,
        'pigKg DOUBLE NULL',
        'reason VARCHAR(500) NULL',
        version,
        'KEY (state)',
      ),
      table(
        'pouring',
        ref('heatId', 'heat'),
        ref('treeId', 'tree'),
        '`order` INT NOT NULL',
        'plannedKg DOUBLE NOT NULL',
        'pouredKg DOUBLE NULL',
        'metalC DOUBLE NULL',
        'tempWhere VARCHAR(20) NULL',
        `startedAt ${INSTANT} NULL`,
        'seconds DOUBLE NULL',
        'outcome VARCHAR(12) NULL',
        version,
        'UNIQUE (heatId, treeId)',
      ),
      table(
        'charge_line',
        ref('heatId', 'heat'),
        'what VARCHAR(12) NOT NULL',
        'alloyId VARCHAR(20) NULL',
        'kg DOUBLE NOT NULL',
        'lot VARCHAR(60) NOT NULL',
        'dry BOOLEAN NOT NULL',
        version,
      ),
      table(
        'step',
        'kind VARCHAR(24) NOT NULL',
        ref('mouldId', 'mould', 'NULL'),
        ref('castId', 'cast_', 'NULL'),
        ref('treeId', 'tree', 'NULL'),
        ref('pieceId', 'piece', 'NULL'),
        ref('loadId', 'kiln_load', 'NULL'),
        ref('heatId', 'heat', 'NULL'),
        'sequence INT NOT NULL',
        ref('sectionId', 'section', 'NULL'),
        `insertedAfter ${ID} NULL`,
        'insertedWhy VARCHAR(500) NULL',
        'state VARCHAR(12) NOT NULL',
        `startedAt ${INSTANT} NULL`,
        `endedAt ${INSTANT} NULL`,
        '`by` JSON NOT NULL',
        ref('recordedBy', 'person', 'NULL'),
        'outcome VARCHAR(20) NULL',
        'readings JSON NOT NULL',
        'readingsVersion INT NOT NULL',
        'note VARCHAR(1000) NOT NULL',
        'flags JSON NOT NULL',
        version,
        `CONSTRAINT step_one_carrier CHECK (
          (mouldId IS NOT NULL) + (castId IS NOT NULL) + (treeId IS NOT NULL) +
          (pieceId IS NOT NULL) + (loadId IS NOT NULL) + (heatId IS NOT NULL) = 1)`,
      ),
      table(
        'weight',
        '`of` VARCHAR(12) NOT NULL',
        ref('castId', 'cast_', 'NULL'),
        ref('treeId', 'tree', 'NULL'),
        'kind VARCHAR(12) NOT NULL',
        'kg DOUBLE NOT NULL',
        'plusMinusKg DOUBLE NOT NULL',
        `at ${INSTANT} NOT NULL`,
        'voidReason VARCHAR(500) NULL',
        ref('stepId', 'step', 'NULL'),
        version,
      ),
    ],
  },
  {
    name: '0002-events-and-projections',
    statements: [
      `CREATE TABLE IF NOT EXISTS event (
        number BIGINT NOT NULL PRIMARY KEY, doneAt ${INSTANT} NOT NULL, typedAt ${INSTANT} NOT NULL, actorId ${ID} NULL,
        requestId VARCHAR(60) NOT NULL, verb VARCHAR(24) NOT NULL, text VARCHAR(600) NOT NULL, room VARCHAR(12) NULL,
        bad BOOLEAN NOT NULL, reason VARCHAR(1000) NULL, changes JSON NOT NULL, takenBackBy BIGINT NULL) ENGINE=InnoDB`,
      `CREATE TABLE IF NOT EXISTS event_subject (
        subject ${ID} NOT NULL, number BIGINT NOT NULL, kind VARCHAR(12) NOT NULL, PRIMARY KEY (subject, number),
        FOREIGN KEY (number) REFERENCES event(number)) ENGINE=InnoDB`,
      `CREATE TABLE IF NOT EXISTS idempotency (
        id VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY, bodyHash CHAR(64) NOT NULL,
        status INT NOT NULL, answer JSON NULL, at ${INSTANT} NOT NULL, KEY (at)) ENGINE=InnoDB`,
      `CREATE TABLE IF NOT EXISTS projection (
        id ${ID} NOT NULL PRIMARY KEY, carrier VARCHAR(8) NOT NULL, workId ${ID} NULL, room VARCHAR(12) NULL,
        readyAt ${INSTANT} NULL, tooOldAt ${INSTANT} NULL, data JSON NOT NULL, KEY (carrier, room)) ENGINE=InnoDB`,
    ],
  },
  {
    name: '0003-planning',
    statements: [
      `ALTER TABLE step ADD COLUMN IF NOT EXISTS pinKind VARCHAR(12) NULL, ADD COLUMN IF NOT EXISTS pinAt ${INSTANT} NULL`,
      table(
        'calendar',
        'name VARCHAR(120) NOT NULL',
        'always BOOLEAN NOT NULL',
        'weekly JSON NOT NULL',
        'closed JSON NOT NULL',
        'extra JSON NOT NULL',
        version,
      ),
      table(
        'resource',
        'kind VARCHAR(12) NOT NULL',
        'room VARCHAR(12) NOT NULL',
        'name VARCHAR(120) NOT NULL',
        'count INT NOT NULL',
        ref('calendarId', 'calendar'),
        'setupMinutes INT NOT NULL',
        version,
      ),
      // One run of the planner; its pieces' dates are kept beside it, since every list shows them.
      table(
        'plan',
        'basis BIGINT NOT NULL',
        'state VARCHAR(12) NOT NULL',
        `madeAt ${INSTANT} NOT NULL`,
        'tookMs INT NOT NULL',
        'notes JSON NOT NULL',
        'pieces JSON NOT NULL',
        'KEY (state)',
        'KEY (madeAt)',
      ),
      `CREATE TABLE IF NOT EXISTS planned_step (${ref('planId', 'plan', 'NOT NULL')} ON DELETE CASCADE, stepId ${ID} NOT NULL,
        startsAt ${INSTANT} NOT NULL, endsAt ${INSTANT} NOT NULL, load_ VARCHAR(80) NULL,
        PRIMARY KEY (planId, stepId), KEY (planId, startsAt)) ENGINE=InnoDB`,
      `CREATE TABLE IF NOT EXISTS computation (
        kind VARCHAR(20) NOT NULL PRIMARY KEY, state VARCHAR(12) NOT NULL, leaseUntil ${INSTANT} NULL, attempts INT NOT NULL,
        basis BIGINT NOT NULL, error VARCHAR(1000) NULL, at ${INSTANT} NOT NULL) ENGINE=InnoDB`,
      "INSERT IGNORE INTO computation VALUES ('plan', 'done', NULL, 0, -1, NULL, '1970-01-01 00:00:00')",
      "INSERT IGNORE INTO counter VALUES ('settings', 1)",
    ],
  },
  {
    name: '0004-orders',
    statements: [
      table('client', 'name VARCHAR(200) NOT NULL', 'contact VARCHAR(500) NOT NULL', version),
      table(
        'client_order',
        'number INT NOT NULL UNIQUE',
        ref('clientId', 'client'),
        'title VARCHAR(200) NOT NULL',
        'place VARCHAR(300) NOT NULL',
        'dueDate DATE NULL',
        'partDelivery BOOLEAN NOT NULL',
        'note VARCHAR(1000) NOT NULL',
        version,
      ),
      `ALTER TABLE piece ADD COLUMN IF NOT EXISTS orderId ${ID} NULL, ADD INDEX IF NOT EXISTS piece_order (orderId)`,
      'ALTER TABLE piece ADD FOREIGN KEY IF NOT EXISTS piece_of_order (orderId) REFERENCES client_order(id)',
      "INSERT IGNORE INTO counter VALUES ('orders', 0)",
    ],
  },
  {
    name: '0005-open-items',
    statements: [
      table(
        'open_item',
        ref('castId', 'cast_'),
        'kind VARCHAR(12) NOT NULL',
        'what VARCHAR(300) NOT NULL',
        `openedAt ${INSTANT} NOT NULL`,
        `closedAt ${INSTANT} NULL`,
        'closedHow VARCHAR(12) NULL',
        'closedNote VARCHAR(500) NOT NULL',
        version,
      ),
    ],
  },
  {
    name: '0006-crew',
    statements: [
      'ALTER TABLE heat ADD COLUMN IF NOT EXISTS crew JSON NULL, ADD COLUMN IF NOT EXISTS signs VARCHAR(10) NULL',
    ],
  },
  {
    name: '0007-a-fact-once',
    statements: [
      'ALTER TABLE person ADD COLUMN IF NOT EXISTS units JSON NULL',
      "ALTER TABLE work ADD COLUMN IF NOT EXISTS finishing VARCHAR(12) NOT NULL DEFAULT 'patina'",
      'ALTER TABLE section ADD COLUMN IF NOT EXISTS typed JSON NULL',
      'ALTER TABLE step ADD COLUMN IF NOT EXISTS typed JSON NULL',
      `ALTER TABLE pull ADD COLUMN IF NOT EXISTS stepId ${ID} NULL`,
      `ALTER TABLE load_place ADD COLUMN IF NOT EXISTS stepId ${ID} NULL`,
      `ALTER TABLE pouring ADD COLUMN IF NOT EXISTS stepId ${ID} NULL,
        ADD COLUMN IF NOT EXISTS plannedSource VARCHAR(12) NOT NULL DEFAULT 'computed',
        ADD COLUMN IF NOT EXISTS plannedPlusMinusKg DOUBLE NULL`,
      'ALTER TABLE event ADD COLUMN IF NOT EXISTS says JSON NULL',
      'ALTER TABLE plan ADD COLUMN IF NOT EXISTS taken BIGINT NOT NULL DEFAULT 0',
      // Rows become the truth: each is told its step, and takes what only the step's readings knew.
      `UPDATE pull p JOIN pull_cast c ON c.pullId = p.id JOIN step s ON s.castId = c.castId AND s.kind = 'pull' AND s.state <> 'void'
        SET p.stepId = s.id, p.wax = IF(p.wax = '', COALESCE(JSON_VALUE(s.readings, '$.wax'), ''), p.wax) WHERE p.stepId IS NULL`,
      `UPDATE pouring p JOIN step s ON s.treeId = p.treeId AND s.kind = 'pour' AND s.outcome = p.outcome AND p.startedAt = COALESCE(s.startedAt, s.endedAt)
        SET p.stepId = s.id WHERE p.stepId IS NULL`,
      `UPDATE load_place p JOIN kiln_load l ON l.id = p.loadId JOIN step s ON s.treeId = p.treeId AND s.kind IN ('fire','fire-block','refire') AND s.endedAt = l.endedAt
        SET p.stepId = s.id WHERE p.stepId IS NULL AND p.outcome IS NOT NULL`,
      // What a row holds now leaves the readings; where no row was found, the reading stays.
      "UPDATE step s JOIN pull p ON p.stepId = s.id SET s.readings = JSON_REMOVE(s.readings, '$.mouldId', '$.wax')",
      "UPDATE step s JOIN pouring p ON p.stepId = s.id SET s.readings = JSON_REMOVE(s.readings, '$.pouredKg', '$.metalC', '$.tempWhere', '$.seconds')",
      "UPDATE step s JOIN load_place p ON p.stepId = s.id SET s.readings = JSON_REMOVE(s.readings, '$.profile', '$.topC')",
      "UPDATE step s JOIN kiln_load l ON l.id = s.loadId SET s.readings = JSON_REMOVE(s.readings, '$.profile', '$.topC') WHERE l.profile <> ''",
      "UPDATE step s JOIN heat h ON h.id = s.heatId SET s.readings = JSON_REMOVE(s.readings, '$.pigKg') WHERE h.pigKg IS NOT NULL",
      "UPDATE step s JOIN weight w ON w.stepId = s.id AND w.`of` = 'wax' SET s.readings = JSON_REMOVE(s.readings, '$.waxKg')",
      "UPDATE step s JOIN weight w ON w.stepId = s.id AND w.`of` = 'cast' SET s.readings = JSON_REMOVE(s.readings, '$.castKg')",
      "UPDATE step s JOIN mould m ON m.id = s.mouldId SET s.readings = JSON_REMOVE(s.readings, '$.lifePulls') WHERE s.kind = 'make-mould' AND m.lifePulls IS NOT NULL",
      "UPDATE step s SET s.readings = JSON_REMOVE(s.readings, '$.castIds') WHERE s.kind = 'join-tree' AND s.state <> 'planned'",
    ],
  },
  {
    name: '0008-backups',
    statements: [
      // Copies of the records: asked for, under way, proven or failed. Whoever keeps Kalvet running works this list off.
      `CREATE TABLE IF NOT EXISTS backup (
        id ${ID} NOT NULL PRIMARY KEY, why VARCHAR(30) NOT NULL, state VARCHAR(10) NOT NULL, askedAt ${INSTANT} NOT NULL,
        madeAt ${INSTANT} NULL, checkedAt ${INSTANT} NULL, file VARCHAR(500) NULL, bytes BIGINT NULL, change_ BIGINT NULL,
        second_ VARCHAR(500) NULL, error VARCHAR(1000) NULL, KEY (state, madeAt)) ENGINE=InnoDB`,
    ],
  },
  {
    name: '0009-who',
    statements: [
      `ALTER TABLE person ADD COLUMN IF NOT EXISTS roles JSON NULL, ADD COLUMN IF NOT EXISTS rooms JSON NULL,
        ADD COLUMN IF NOT EXISTS gates JSON NULL`,
      // Who could decide exceptions manages; the others work. Both can be changed on the People page.
      `UPDATE person SET roles = IF(mayOverride, '["manager"]', '["hand"]'), rooms = '[]', gates = '[]' WHERE roles IS NULL`,
      'ALTER TABLE event ADD COLUMN IF NOT EXISTS how VARCHAR(10) NULL',
      `CREATE TABLE IF NOT EXISTS credential (
        personId ${ID} NOT NULL PRIMARY KEY, FOREIGN KEY (personId) REFERENCES person(id), passwordHash VARCHAR(200) NULL, pinHash VARCHAR(200) NULL,
        mustChange BOOLEAN NOT NULL DEFAULT FALSE, openid VARCHAR(200) NULL UNIQUE) ENGINE=InnoDB`,
      `CREATE TABLE IF NOT EXISTS device (
        id ${ID} NOT NULL PRIMARY KEY, kind VARCHAR(10) NOT NULL, name VARCHAR(80) NOT NULL, room VARCHAR(12) NULL,
        tokenHash CHAR(64) NOT NULL UNIQUE, ${ref('personId', 'person')}, pairedAt ${INSTANT} NOT NULL, lastSeenAt ${INSTANT} NULL) ENGINE=InnoDB`,
      // Only what a token hashes to is kept: who reads the table cannot be anybody.
      `CREATE TABLE IF NOT EXISTS session (
        id CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY, ${ref('personId', 'person')}, how VARCHAR(10) NOT NULL,
        token CHAR(43) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, deviceId ${ID} NULL, createdAt ${INSTANT} NOT NULL,
        lastSeenAt ${INSTANT} NOT NULL, address VARCHAR(60) NOT NULL, agent VARCHAR(120) NOT NULL, KEY (lastSeenAt)) ENGINE=InnoDB`,
      `CREATE TABLE IF NOT EXISTS sign_in_try (
        id CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY, failures INT NOT NULL, lastAt ${INSTANT} NOT NULL,
        KEY (lastAt)) ENGINE=InnoDB`,
      `CREATE TABLE IF NOT EXISTS audit (
        id ${ID} NOT NULL PRIMARY KEY, at ${INSTANT} NOT NULL, what VARCHAR(12) NOT NULL, personId ${ID} NULL, name VARCHAR(120) NOT NULL,
        how VARCHAR(10) NULL, text VARCHAR(600) NOT NULL, address VARCHAR(60) NOT NULL, agent VARCHAR(120) NOT NULL,
        KEY (at), KEY (what, at)) ENGINE=InnoDB`,
    ],
  },
  { name: '0010-roles-alone', statements: ['ALTER TABLE person DROP COLUMN IF EXISTS mayOverride'] },
  {
    name: '0011-kept-beside',
    // Looked over at the next start: what is kept ready is made anew by the program that reads it.
    statements: [
      'ALTER TABLE projection ADD COLUMN IF NOT EXISTS beside JSON NULL',
      // What came back from all knock-outs is added up by their kind.
      'ALTER TABLE step ADD INDEX IF NOT EXISTS step_kind (kind, state)',
    ],
  },
  {
    name: '0012-taken-over',
    statements: [
      // Readings that nobody read off: taken over from what was planned, or said last.
      "ALTER TABLE step ADD COLUMN IF NOT EXISTS taken JSON NOT NULL DEFAULT '[]'",
      // What was read last at a kind of step is offered in its form.
      'ALTER TABLE step ADD INDEX IF NOT EXISTS step_last (kind, state, endedAt)',
      'ALTER TABLE step DROP INDEX IF EXISTS step_kind',
    ],
  },
  {
    name: '0013-decided',
    statements: [
      // How a person decided what a step asked.
      'ALTER TABLE step ADD COLUMN IF NOT EXISTS decided JSON NULL',
      // A hold stops shells half dipped, or lets them go on to the seal coat.
      'ALTER TABLE piece ADD COLUMN IF NOT EXISTS holdShells VARCHAR(8) NULL',
    ],
  },
  {
    name: '0014-melting-apart',
    // The usual 90 minutes between two heats held the melting too, which is now worked out from the charge.
    statements: [
      "UPDATE resource SET setupMinutes = 20 WHERE kind = 'crucible' AND setupMinutes = 90",
      // Long work is laid down for a pour and taken up again: where each further part begins.
      'ALTER TABLE planned_step ADD COLUMN IF NOT EXISTS parts JSON NULL',
      // What logged hours said when it was made.
      'ALTER TABLE plan ADD COLUMN IF NOT EXISTS learned JSON NULL',
    ],
  },
  {
    name: '0015-drafts',
    statements: [
      // Hands more or fewer in a room for a while.
      table(
        'staffing',
        ref('resourceId', 'resource'),
        'more INT NOT NULL',
        '`from` DATE NOT NULL',
        '`to` DATE NOT NULL',
        'why VARCHAR(200) NOT NULL',
        version,
      ),
      // When each order is ready, with its chances.
      'ALTER TABLE plan ADD COLUMN IF NOT EXISTS orders JSON NULL',
      // Plans that are thought of and not in use.
      table(
        'draft',
        'name VARCHAR(120) NOT NULL',
        'changes JSON NOT NULL',
        'state VARCHAR(8) NOT NULL',
        ref('personId', 'person', 'NULL'),
        `madeAt ${INSTANT} NOT NULL`,
        version,
        'KEY (state)',
      ),
    ],
  },
  {
    name: '0016-hands',
    statements: [
      // Whose work a planned step is, or which fire's, and how much work there is for each room's hands by week.
      'ALTER TABLE planned_step ADD COLUMN IF NOT EXISTS partEnds JSON NULL',
      `ALTER TABLE planned_step ADD COLUMN IF NOT EXISTS resourceId ${ID} NULL`,
      'ALTER TABLE plan ADD COLUMN IF NOT EXISTS weeks JSON NULL',
    ],
  },
  {
    name: '0017-feeds',
    statements: [
      // Addresses at which calendars of a room, a person and the pour days are read without signing in.
      table(
        'feed',
        'subject VARCHAR(60) NOT NULL',
        'secret VARCHAR(60) CHARACTER SET ascii COLLATE ascii_bin NOT NULL',
        `madeAt ${INSTANT} NOT NULL`,
        version,
        'UNIQUE KEY (subject)',
        'UNIQUE KEY (secret)',
      ),
      // Guests in the foundry.
      table(
        'visit',
        'day DATE NOT NULL',
        '`from` VARCHAR(5) NOT NULL',
        '`to` VARCHAR(5) NOT NULL',
        'who VARCHAR(120) NOT NULL',
        'note VARCHAR(500) NOT NULL',
        version,
        'KEY (day)',
      ),
    ],
  },
  {
    name: '0018-skills',
    statements: [
      // What only some can do, and who is off by name.
      'ALTER TABLE person ADD COLUMN IF NOT EXISTS skills JSON NULL',
      `ALTER TABLE staffing ADD COLUMN IF NOT EXISTS personId ${ID} NULL`,
    ],
  },
  {
    name: '0019-priority',
    statements: ["ALTER TABLE piece ADD COLUMN IF NOT EXISTS priority VARCHAR(10) NOT NULL DEFAULT 'usual'"],
  },
  {
    name: '0020-ready',
    // From when each tree could be poured, as it was when the plan was made.
    statements: ['ALTER TABLE plan ADD COLUMN IF NOT EXISTS ready JSON NULL'],
  },
  {
    name: '0021-pour-day',
    statements: [
      ...['lots', 'crucibles'].map((name) => `INSERT IGNORE INTO counter VALUES ('${name}', 0)`),
      // Pots, and what was seen when somebody looked one over.
      table(
        'crucible',
        'number INT NOT NULL UNIQUE',
        'name VARCHAR(120) NOT NULL',
        'family VARCHAR(20) NOT NULL',
        'holdsKg DOUBLE NOT NULL',
        'usableKg DOUBLE NOT NULL',
        'emptyKg DOUBLE NOT NULL',
        'lifeHeats INT NOT NULL',
        'heatsBefore INT NOT NULL',
        'state VARCHAR(12) NOT NULL',
        'since DATE NOT NULL',
        version,
      ),
      table(
        'crucible_look',
        ref('crucibleId', 'crucible'),
        `at ${INSTANT} NOT NULL`,
        'verdict VARCHAR(12) NOT NULL',
        'note VARCHAR(1000) NOT NULL',
        ref('byId', 'person', 'NULL'),
        version,
      ),
      // What was looked at before a pour, the pot, when the furnace was lit and what its meter counted.
      'ALTER TABLE heat ADD COLUMN IF NOT EXISTS checks JSON NULL',
      `ALTER TABLE heat ADD COLUMN IF NOT EXISTS crucibleId ${ID} NULL`,
      `ALTER TABLE heat ADD COLUMN IF NOT EXISTS litAt ${INSTANT} NULL`,
      'ALTER TABLE heat ADD COLUMN IF NOT EXISTS energyKwh DOUBLE NULL',
      'ALTER TABLE heat ADD CONSTRAINT FOREIGN KEY IF NOT EXISTS heat_crucible (crucibleId) REFERENCES crucible(id)',
      // A tree's place in the pit, and when its shell left the kiln.
      'ALTER TABLE pouring ADD COLUMN IF NOT EXISTS place INT NULL',
      `ALTER TABLE pouring ADD COLUMN IF NOT EXISTS outAt ${INSTANT} NULL`,
      table(
        'heat_reading',
        ref('heatId', 'heat'),
        ref('treeId', 'tree', 'NULL'),
        `at ${INSTANT} NOT NULL`,
        'celsius DOUBLE NOT NULL',
        '`where` VARCHAR(12) NOT NULL',
        'means VARCHAR(12) NOT NULL',
        'plusMinusK DOUBLE NOT NULL',
        'instrument VARCHAR(120) NOT NULL',
        'voidReason VARCHAR(500) NULL',
        version,
      ),
      // Metal that came, and what was found when somebody weighed what is there.
      table(
        'lot',
        'number INT NOT NULL UNIQUE',
        'what VARCHAR(12) NOT NULL',
        'alloyId VARCHAR(20) NULL',
        'mark VARCHAR(60) NOT NULL UNIQUE',
        'supplier VARCHAR(120) NOT NULL',
        'kg DOUBLE NOT NULL',
        'receivedOn DATE NOT NULL',
        'analysis JSON NOT NULL',
        'state VARCHAR(12) NOT NULL',
        'note VARCHAR(1000) NOT NULL',
        version,
      ),
      table(
        'stock_count',
        'alloyId VARCHAR(20) NOT NULL',
        'what VARCHAR(12) NOT NULL',
        'kg DOUBLE NOT NULL',
        `at ${INSTANT} NOT NULL`,
        'why VARCHAR(500) NOT NULL',
        version,
        'KEY (alloyId, at)',
      ),
    ],
  },
  {
    name: '0022-instruments',
    statements: [
      table(
        'instrument',
        'code VARCHAR(40) NOT NULL UNIQUE',
        'name VARCHAR(120) NOT NULL',
        'kind VARCHAR(12) NOT NULL',
        '`where` VARCHAR(12) NULL',
        'plusMinusK DOUBLE NOT NULL',
        'emissivity DOUBLE NULL',
        'calibratedOn DATE NULL',
        'state VARCHAR(12) NOT NULL',
        version,
      ),
      // What each said last: whoever serves a screen reads it here, whichever server listens.
      `CREATE TABLE IF NOT EXISTS instrument_now (instrumentId ${ID} NOT NULL PRIMARY KEY, value DOUBLE NOT NULL, at ${INSTANT} NOT NULL, settled BOOLEAN NOT NULL, doubt JSON NULL, FOREIGN KEY (instrumentId) REFERENCES instrument(id) ON DELETE CASCADE) ENGINE=InnoDB`,
      // What the furnace's meter showed when it was lit.
      'ALTER TABLE heat ADD COLUMN IF NOT EXISTS meterFrom DOUBLE NULL',
    ],
  },
  {
    name: '0023-files',
    statements: [
      // Bytes by what they are, not by what hangs on them: the same picture sent twice is kept once.
      table(
        'file_content',
        'hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL UNIQUE',
        'kind VARCHAR(12) NOT NULL',
        'mime VARCHAR(60) NOT NULL',
        'bytes BIGINT NOT NULL',
        'width INT NULL',
        'height INT NULL',
        'state VARCHAR(12) NOT NULL',
        'name VARCHAR(200) NOT NULL',
        'fingerprint VARCHAR(300) NOT NULL',
        ref('byId', 'person', 'NULL'),
        `at ${INSTANT} NOT NULL`,
        'KEY (state, at)',
      ),
      `CREATE TABLE IF NOT EXISTS file_chunk (contentId ${ID} NOT NULL, size VARCHAR(12) NOT NULL, part INT NOT NULL, data MEDIUMBLOB NOT NULL, PRIMARY KEY (contentId, size, part), FOREIGN KEY (contentId) REFERENCES file_content(id) ON DELETE CASCADE) ENGINE=InnoDB`,
      table(
        'attachment',
        ref('contentId', 'file_content'),
        'subject VARCHAR(12) NOT NULL',
        `subjectId ${ID} NOT NULL`,
        'defect INT NULL',
        'name VARCHAR(200) NOT NULL',
        'role VARCHAR(12) NOT NULL',
        'words VARCHAR(1000) NOT NULL',
        'pins JSON NOT NULL',
        `at ${INSTANT} NOT NULL`,
        ref('byId', 'person', 'NULL'),
        'voidReason VARCHAR(500) NULL',
        version,
        'KEY (subjectId)',
      ),
    ],
  },
  {
    name: '0024-model',
    statements: [
      // Ways in which a section's wax is known before it is weighed, and which way up it is poured.
      'ALTER TABLE section ADD COLUMN IF NOT EXISTS estimates JSON NULL',
      'ALTER TABLE section ADD COLUMN IF NOT EXISTS wayUp JSON NULL',
      // A silhouette of its own is an outline, not a name.
      'ALTER TABLE work MODIFY glyph VARCHAR(1000) NOT NULL',
      table(
        'model',
        ref('workId', 'work'),
        ref('sectionId', 'section', 'NULL'),
        ref('contentId', 'file_content'),
        'name VARCHAR(200) NOT NULL',
        'sizing JSON NOT NULL',
        'measured JSON NOT NULL',
        'planes JSON NOT NULL',
        'cutNames JSON NOT NULL',
        'wayUp JSON NULL',
        `at ${INSTANT} NOT NULL`,
        ref('byId', 'person', 'NULL'),
        'voidReason VARCHAR(500) NULL',
        version,
      ),
      // Models that a browser has no memory for: whichever server works on one says so by its lease.
      table(
        'model_job',
        ref('contentId', 'file_content', 'NOT NULL').replace(
          'REFERENCES file_content(id)',
          'REFERENCES file_content(id) ON DELETE CASCADE',
        ),
        'name VARCHAR(200) NOT NULL',
        'question JSON NOT NULL',
        'state VARCHAR(12) NOT NULL',
        'share DOUBLE NOT NULL',
        'what VARCHAR(200) NOT NULL',
        'error VARCHAR(1000) NULL',
        'answer JSON NULL',
        `leaseUntil ${INSTANT} NULL`,
        `leasedBy ${ID} NULL`,
        'attempts INT NOT NULL',
        ref('byId', 'person', 'NULL'),
        `at ${INSTANT} NOT NULL`,
      ),
    ],
  },
];

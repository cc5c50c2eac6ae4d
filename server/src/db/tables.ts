import type { Instant } from '@kalvet/core';
import { METRIC } from '@kalvet/core';
import type { Model, ModelAttributes, ModelStatic, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';
import { SHELL_KEPT, SHELL_RECORDS } from './shell-tables.ts';

/** How a field is kept: text is anything the driver hands over as it is. */
type Field = 'id' | 'int' | 'double' | 'text' | 'bool' | 'instant' | 'day' | 'json' | 'blob';

interface TableSpec {
  readonly table: string;
  readonly fields: Readonly<Record<string, Field>>;
  /** Columns that make the primary key, where it is not `id`. */
  readonly key?: readonly string[];
  /** Whose record a column names; the other way round is an association too. */
  readonly belongsTo?: Readonly<Record<string, string>>;
}

const v = { id: 'id', version: 'int' } as const;

/**
 * Every versioned table, by the name core gives it: the one definition that model, row mapping, associations and taking back
 * are made from. Migrations make the tables.
 */
const RECORDS = {
  ...SHELL_RECORDS,
  people: {
    table: 'person',
    fields: {
      ...v,
      name: 'text',
      shortName: 'text',
      roles: 'json',
      rooms: 'json',
      gates: 'json',
      skills: 'json',
      active: 'bool',
      units: 'json',
    },
  },
  works: {
    table: 'work',
    fields: {
      ...v,
      number: 'int',
      code: 'text',
      title: 'text',
      artist: 'text',
      editionSize: 'int',
      artistProofs: 'int',
      alloyId: 'text',
      method: 'text',
      approval: 'text',
      finish: 'text',
      finishing: 'text',
      glyph: 'text',
      routeVersion: 'int',
    },
  },
  sections: {
    table: 'section',
    belongsTo: { workId: 'works' },
    fields: {
      ...v,
      workId: 'id',
      ordinal: 'int',
      name: 'text',
      method: 'text',
      wallMm: 'double',
      metalHeightMm: 'double',
      expectedWaxKg: 'double',
      areaCm2: 'double',
      seamM: 'double',
      deep: 'bool',
      typed: 'json',
      estimates: 'json',
      wayUp: 'json',
      shape: 'json',
    },
  },
  models: {
    table: 'model',
    belongsTo: { workId: 'works', contentId: 'contents' },
    fields: {
      ...v,
      workId: 'id',
      sectionId: 'id',
      contentId: 'id',
      name: 'text',
      sizing: 'json',
      measured: 'json',
      planes: 'json',
      cutNames: 'json',
      wayUp: 'json',
      at: 'instant',
      byId: 'id',
      voidReason: 'text',
    },
  },
  pieces: {
    table: 'piece',
    belongsTo: { workId: 'works', orderId: 'orders' },
    fields: {
      ...v,
      workId: 'id',
      series: 'text',
      number: 'int',
      of: 'int',
      state: 'text',
      markInWax: 'text',
      dueDate: 'day',
      priority: 'text',
      holdReason: 'text',
      holdUntil: 'day',
      holdShells: 'text',
      deliveredAt: 'instant',
      orderId: 'id',
      routeVersion: 'int',
    },
  },
  moulds: {
    table: 'mould',
    belongsTo: { workId: 'works' },
    fields: {
      ...v,
      number: 'int',
      workId: 'id',
      name: 'text',
      state: 'text',
      lifePulls: 'int',
      pullsBefore: 'int',
    },
  },
  casts: {
    table: 'cast_',
    belongsTo: { sectionId: 'sections', pieceId: 'pieces' },
    fields: {
      ...v,
      sectionId: 'id',
      pieceId: 'id',
      attempt: 'int',
      state: 'text',
      lostRoom: 'text',
      lostWhy: 'text',
      lostAt: 'instant',
      recast: 'bool',
    },
  },
  pulls: {
    table: 'pull',
    belongsTo: { mouldId: 'moulds' },
    fields: {
      ...v,
      number: 'int',
      mouldId: 'id',
      startedAt: 'instant',
      endedAt: 'instant',
      wax: 'text',
      outcome: 'text',
      stepId: 'id',
    },
  },
  trees: {
    table: 'tree',
    fields: {
      ...v,
      number: 'int',
      alloyId: 'text',
      method: 'text',
      state: 'text',
      hangs: 'json',
      footprint: 'json',
      coatPlan: 'json',
    },
  },
  treeCasts: {
    table: 'tree_cast',
    belongsTo: { treeId: 'trees', castId: 'casts' },
    fields: { ...v, treeId: 'id', castId: 'id', since: 'instant', until: 'instant' },
  },
  loads: {
    table: 'kiln_load',
    fields: {
      ...v,
      number: 'int',
      purpose: 'text',
      state: 'text',
      startedAt: 'instant',
      endedAt: 'instant',
      profile: 'text',
      topC: 'double',
      profileId: 'id',
      waxBackKg: 'double',
      energyKwh: 'double',
      reason: 'text',
    },
  },
  loadPlaces: {
    table: 'load_place',
    belongsTo: { loadId: 'loads', treeId: 'trees' },
    fields: { ...v, loadId: 'id', treeId: 'id', outcome: 'text', stepId: 'id', floor: 'json' },
  },
  heats: {
    table: 'heat',
    fields: {
      ...v,
      number: 'int',
      alloyId: 'text',
      state: 'text',
      plannedFor: 'instant',
      holdsKg: 'double',
      usableKg: 'double',
      meltLoss: 'double',
      pigReserveKg: 'double',
      startedAt: 'instant',
      endedAt: 'instant',
      leadId: 'id',
      crew: 'json',
      signs: 'text',
      coverConfirmedById: 'id',
      coverConfirmedAt: 'instant',
      checks: 'json',
      pigKg: 'double',
      crucibleId: 'id',
      litAt: 'instant',
      energyKwh: 'double',
      meterFrom: 'double',
      reason: 'text',
    },
  },
  heatReadings: {
    table: 'heat_reading',
    belongsTo: { heatId: 'heats', treeId: 'trees' },
    fields: {
      ...v,
      heatId: 'id',
      treeId: 'id',
      at: 'instant',
      celsius: 'double',
      where: 'text',
      means: 'text',
      plusMinusK: 'double',
      instrument: 'text',
      voidReason: 'text',
    },
  },
  lots: {
    table: 'lot',
    fields: {
      ...v,
      number: 'int',
      what: 'text',
      alloyId: 'text',
      mark: 'text',
      supplier: 'text',
      kg: 'double',
      receivedOn: 'day',
      analysis: 'json',
      state: 'text',
      note: 'text',
    },
  },
  stockCounts: {
    table: 'stock_count',
    fields: { ...v, alloyId: 'text', what: 'text', kg: 'double', at: 'instant', why: 'text' },
  },
  crucibles: {
    table: 'crucible',
    fields: {
      ...v,
      number: 'int',
      name: 'text',
      family: 'text',
      holdsKg: 'double',
      usableKg: 'double',
      emptyKg: 'double',
      lifeHeats: 'int',
      heatsBefore: 'int',
      state: 'text',
      since: 'day',
    },
  },
  instruments: {
    table: 'instrument',
    fields: {
      ...v,
      code: 'text',
      name: 'text',
      kind: 'text',
      where: 'text',
      plusMinusK: 'double',
      emissivity: 'double',
      calibratedOn: 'day',
      ofId: 'id',
      state: 'text',
    },
  },
  attachments: {
    table: 'attachment',
    belongsTo: { contentId: 'contents' },
    fields: {
      ...v,
      contentId: 'id',
      subject: 'text',
      subjectId: 'id',
      defect: 'int',
      name: 'text',
      role: 'text',
      words: 'text',
      pins: 'json',
      at: 'instant',
      byId: 'id',
      voidReason: 'text',
    },
  },
  crucibleLooks: {
    table: 'crucible_look',
    belongsTo: { crucibleId: 'crucibles' },
    fields: { ...v, crucibleId: 'id', at: 'instant', verdict: 'text', note: 'text', byId: 'id' },
  },
  pourings: {
    table: 'pouring',
    belongsTo: { heatId: 'heats', treeId: 'trees' },
    fields: {
      ...v,
      heatId: 'id',
      treeId: 'id',
      order: 'int',
      plannedKg: 'double',
      plannedSource: 'text',
      plannedPlusMinusKg: 'double',
      pouredKg: 'double',
      metalC: 'double',
      tempWhere: 'text',
      startedAt: 'instant',
      seconds: 'double',
      outcome: 'text',
      place: 'int',
      outAt: 'instant',
      stepId: 'id',
    },
  },
  chargeLines: {
    table: 'charge_line',
    belongsTo: { heatId: 'heats' },
    fields: { ...v, heatId: 'id', what: 'text', alloyId: 'text', kg: 'double', lot: 'text', dry: 'bool' },
  },
  steps: {
    table: 'step',
    belongsTo: {
      mouldId: 'moulds',
      castId: 'casts',
      treeId: 'trees',
      pieceId: 'pieces',
      loadId: 'loads',
      heatId: 'heats',
    },
    fields: {
      ...v,
      kind: 'text',
      mouldId: 'id',
      castId: 'id',
      treeId: 'id',
      pieceId: 'id',
      loadId: 'id',
      heatId: 'id',
      sequence: 'int',
      sectionId: 'id',
      insertedAfter: 'id',
      insertedWhy: 'text',
      state: 'text',
      startedAt: 'instant',
      endedAt: 'instant',
      by: 'json',
      recordedBy: 'id',
      outcome: 'text',
      readings: 'json',
      readingsVersion: 'int',
      typed: 'json',
      taken: 'json',
      decided: 'json',
      note: 'text',
      flags: 'json',
      pinKind: 'text',
      pinAt: 'instant',
    },
  },
  clients: { table: 'client', fields: { ...v, name: 'text', contact: 'text' } },
  orders: {
    table: 'client_order',
    belongsTo: { clientId: 'clients' },
    fields: {
      ...v,
      number: 'int',
      clientId: 'id',
      title: 'text',
      place: 'text',
      dueDate: 'day',
      partDelivery: 'bool',
      note: 'text',
    },
  },
  openItems: {
    table: 'open_item',
    belongsTo: { castId: 'casts' },
    fields: {
      ...v,
      castId: 'id',
      kind: 'text',
      what: 'text',
      openedAt: 'instant',
      closedAt: 'instant',
      closedHow: 'text',
      closedNote: 'text',
    },
  },
  calendars: {
    table: 'calendar',
    fields: { ...v, name: 'text', always: 'bool', weekly: 'json', closed: 'json', extra: 'json' },
  },
  resources: {
    table: 'resource',
    belongsTo: { calendarId: 'calendars' },
    fields: {
      ...v,
      kind: 'text',
      room: 'text',
      name: 'text',
      count: 'int',
      calendarId: 'id',
      setupMinutes: 'int',
    },
  },
  staffing: {
    table: 'staffing',
    belongsTo: { resourceId: 'resources' },
    fields: { ...v, resourceId: 'id', personId: 'id', more: 'int', from: 'day', to: 'day', why: 'text' },
  },
  feeds: {
    table: 'feed',
    fields: { ...v, subject: 'text', secret: 'text', madeAt: 'instant' },
  },
  visits: {
    table: 'visit',
    fields: { ...v, day: 'day', from: 'text', to: 'text', who: 'text', note: 'text' },
  },
  drafts: {
    table: 'draft',
    belongsTo: { personId: 'people' },
    fields: { ...v, name: 'text', changes: 'json', state: 'text', personId: 'id', madeAt: 'instant' },
  },
  weights: {
    table: 'weight',
    belongsTo: { castId: 'casts' },
    fields: {
      ...v,
      of: 'text',
      castId: 'id',
      treeId: 'id',
      kind: 'text',
      kg: 'double',
      plusMinusKg: 'double',
      at: 'instant',
      voidReason: 'text',
      stepId: 'id',
    },
  },
} as const satisfies Record<string, TableSpec>;

/** Pairs, and what is kept beside the records: events, settings, plans, what is kept ready. They have no version. */
const KEPT = {
  ...SHELL_KEPT,
  contents: {
    table: 'file_content',
    fields: {
      id: 'id',
      hash: 'text',
      kind: 'text',
      mime: 'text',
      bytes: 'int',
      width: 'int',
      height: 'int',
      state: 'text',
      name: 'text',
      fingerprint: 'text',
      byId: 'id',
      at: 'instant',
    },
  },
  modelJobs: {
    table: 'model_job',
    fields: {
      id: 'id',
      contentId: 'id',
      name: 'text',
      question: 'json',
      state: 'text',
      share: 'double',
      what: 'text',
      error: 'text',
      answer: 'json',
      leaseUntil: 'instant',
      leasedBy: 'id',
      attempts: 'int',
      byId: 'id',
      at: 'instant',
    },
  },
  chunks: {
    table: 'file_chunk',
    key: ['contentId', 'size', 'part'],
    fields: { contentId: 'id', size: 'text', part: 'int', data: 'blob' },
  },
  mouldSections: {
    table: 'mould_section',
    key: ['mouldId', 'sectionId'],
    belongsTo: { mouldId: 'moulds', sectionId: 'sections' },
    fields: { mouldId: 'id', sectionId: 'id' },
  },
  pullCasts: {
    table: 'pull_cast',
    key: ['pullId', 'castId'],
    belongsTo: { pullId: 'pulls', castId: 'casts' },
    fields: { pullId: 'id', castId: 'id' },
  },
  instrumentNow: {
    table: 'instrument_now',
    key: ['instrumentId'],
    belongsTo: { instrumentId: 'instruments' },
    fields: {
      instrumentId: 'id',
      value: 'double',
      humidityPercent: 'double',
      at: 'instant',
      settled: 'bool',
      doubt: 'json',
    },
  },
  counters: { table: 'counter', key: ['name'], fields: { name: 'text', value: 'int' } },
  settings: { table: 'setting', key: ['name'], fields: { name: 'text', value: 'json' } },
  events: {
    table: 'event',
    key: ['number'],
    belongsTo: { actorId: 'people' },
    fields: {
      number: 'int',
      doneAt: 'instant',
      typedAt: 'instant',
      actorId: 'id',
      requestId: 'text',
      verb: 'text',
      text: 'text',
      says: 'json',
      room: 'text',
      bad: 'bool',
      reason: 'text',
      changes: 'json',
      takenBackBy: 'int',
      how: 'text',
    },
  },
  eventSubjects: {
    table: 'event_subject',
    key: ['subject', 'number'],
    belongsTo: { number: 'events' },
    fields: { subject: 'id', number: 'int', kind: 'text' },
  },
  keys: {
    table: 'idempotency',
    fields: { id: 'text', bodyHash: 'text', status: 'int', answer: 'json', at: 'instant' },
  },
  projections: {
    table: 'projection',
    fields: {
      id: 'id',
      carrier: 'text',
      workId: 'id',
      room: 'text',
      readyAt: 'instant',
      tooOldAt: 'instant',
      data: 'json',
      beside: 'json',
    },
  },
  credentials: {
    table: 'credential',
    key: ['personId'],
    belongsTo: { personId: 'people' },
    fields: { personId: 'id', passwordHash: 'text', pinHash: 'text', mustChange: 'bool', openid: 'text' },
  },
  devices: {
    table: 'device',
    belongsTo: { personId: 'people' },
    fields: {
      id: 'id',
      kind: 'text',
      name: 'text',
      room: 'text',
      tokenHash: 'text',
      personId: 'id',
      pairedAt: 'instant',
      lastSeenAt: 'instant',
    },
  },
  sessions: {
    table: 'session',
    belongsTo: { personId: 'people', deviceId: 'devices' },
    fields: {
      id: 'text',
      personId: 'id',
      how: 'text',
      token: 'text',
      deviceId: 'id',
      createdAt: 'instant',
      lastSeenAt: 'instant',
      address: 'text',
      agent: 'text',
    },
  },
  tries: { table: 'sign_in_try', fields: { id: 'text', failures: 'int', lastAt: 'instant' } },
  audit: {
    table: 'audit',
    fields: {
      id: 'id',
      at: 'instant',
      what: 'text',
      personId: 'id',
      name: 'text',
      how: 'text',
      text: 'text',
      address: 'text',
      agent: 'text',
    },
  },
  backups: {
    table: 'backup',
    fields: {
      id: 'id',
      why: 'text',
      state: 'text',
      askedAt: 'instant',
      madeAt: 'instant',
      checkedAt: 'instant',
      file: 'text',
      bytes: 'int',
      change_: 'int',
      second_: 'text',
      error: 'text',
    },
  },
  plans: {
    table: 'plan',
    fields: {
      id: 'id',
      basis: 'int',
      state: 'text',
      madeAt: 'instant',
      tookMs: 'int',
      notes: 'json',
      pieces: 'json',
      learned: 'json',
      orders: 'json',
      weeks: 'json',
      ready: 'json',
      taken: 'int',
    },
  },
  plannedSteps: {
    table: 'planned_step',
    key: ['planId', 'stepId'],
    belongsTo: { planId: 'plans', stepId: 'steps' },
    fields: {
      planId: 'id',
      stepId: 'id',
      startsAt: 'instant',
      endsAt: 'instant',
      load_: 'text',
      parts: 'json',
      partEnds: 'json',
      resourceId: 'id',
    },
  },
  computations: {
    table: 'computation',
    key: ['kind'],
    fields: {
      kind: 'text',
      state: 'text',
      leaseUntil: 'instant',
      attempts: 'int',
      basis: 'int',
      error: 'text',
      at: 'instant',
    },
  },
} as const satisfies Record<string, TableSpec>;

const TABLES = { ...RECORDS, ...KEPT };

/** Tables of versioned records. */
export type TableName = keyof typeof RECORDS;
export type AnyTable = keyof typeof TABLES;

const TYPES = {
  id: DataTypes.CHAR(36),
  int: DataTypes.BIGINT,
  double: DataTypes.DOUBLE,
  text: DataTypes.STRING(1000),
  bool: DataTypes.BOOLEAN,
  instant: DataTypes.DATE(3),
  day: DataTypes.DATEONLY,
  json: DataTypes.JSON,
  blob: DataTypes.BLOB('medium'),
};

export type Models = Record<AnyTable, ModelStatic<Model>>;

/** Defines the models on a connection, with their associations both ways. */
export function defineModels(db: Sequelize): Models {
  const names = Object.keys(TABLES) as AnyTable[];
  const make = (name: AnyTable) => {
    const { table, fields, key = ['id'] } = TABLES[name] as TableSpec;
    const attributes: ModelAttributes = Object.fromEntries(
      Object.entries(fields).map(([field, type]) => [field, { type: TYPES[type], primaryKey: key.includes(field) }]),
    );
    return db.define(name, attributes, { tableName: table, timestamps: false });
  };
  const models = Object.fromEntries(names.map((name) => [name, make(name)])) as Models;
  for (const name of names)
    for (const [column, other] of Object.entries((TABLES[name] as TableSpec).belongsTo ?? {})) {
      const to = models[other as AnyTable];
      models[name].belongsTo(to, { foreignKey: column, as: nameOf(column), constraints: false });
      to.hasMany(models[name], { foreignKey: column, as: name, constraints: false });
    }
  return models;
}

/** `pieceId` is the association `piece`. */
const nameOf = (column: string): string => (column === 'number' ? 'event' : column.replace(/Id$/, ''));

export type Row = Record<string, unknown>;

/** An instant as the driver gives it. */
const asInstant = (value: Date | string): Instant =>
  (value instanceof Date ? value : new Date(`${value}Z`)).toISOString();

/** JSON columns come back parsed; where a driver hands an object or a list over as text, it is read here. */
const asJson = (value: unknown): unknown =>
  typeof value === 'string' && /^[[{]/.test(value) ? JSON.parse(value) : value;

const CARRIER_COLUMNS = {
  mould: 'mouldId',
  cast: 'castId',
  tree: 'treeId',
  piece: 'pieceId',
  load: 'loadId',
  heat: 'heatId',
} as const;

/** A record as it is written: a step's carrier becomes the one foreign key that is set. */
export function toRow(name: TableName, record: Row): Row {
  const { carrier, carrierId, ...rest } = record;
  if (name !== 'steps' || carrier === undefined) return rest;
  return { ...rest, [CARRIER_COLUMNS[carrier as keyof typeof CARRIER_COLUMNS]]: carrierId };
}

const CARRIERS = Object.entries(CARRIER_COLUMNS);
const CARRIER_FIELDS = new Set<string>(Object.values(CARRIER_COLUMNS));

/** What each table's rows are read as, worked out once: every screen reads thousands of rows. */
const READ = Object.fromEntries(
  Object.entries(TABLES).map(([name, { fields }]) => [
    name,
    Object.entries(fields as Record<string, Field>).filter(([field]) => name !== 'steps' || !CARRIER_FIELDS.has(field)),
  ]),
) as Record<AnyTable, [string, Field][]>;

/** A row as the database gave it, as the record core knows. Columns that were not asked for are left out. */
export function fromRow<T>(name: AnyTable, row: Row): T {
  const record: Row = {};
  for (const [field, type] of READ[name]) {
    const value = row[field];
    if (value === undefined) continue;
    if (value === null) record[field] = EMPTY[field] ?? null;
    else if (type === 'instant') record[field] = asInstant(value as Date | string);
    else if (type === 'bool') record[field] = value === true || value === 1;
    else if (type === 'json') record[field] = asJson(value);
    else record[field] = value;
  }
  if (name !== 'steps') return record as T;
  for (const [carrier, column] of CARRIERS) {
    if (row[column] === null || row[column] === undefined) continue;
    record['carrier'] = carrier;
    record['carrierId'] = row[column];
  }
  return record as T;
}

/** What an empty column stands for where it is not "nothing": records from before have none. */
const EMPTY: Readonly<Record<string, unknown>> = {
  typed: {},
  units: METRIC,
  roles: [],
  rooms: [],
  gates: [],
  skills: [],
  estimates: [],
  hangs: [],
};

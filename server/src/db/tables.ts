import type { Instant } from '@kalvet/core';
import type { ModelAttributes, ModelStatic, Model, Sequelize } from 'sequelize';
import { DataTypes } from 'sequelize';

/** How a field is kept: text is anything the driver hands over as it is. */
type Field = 'id' | 'int' | 'double' | 'text' | 'bool' | 'instant' | 'day' | 'json';

interface TableSpec {
  readonly table: string;
  readonly fields: Readonly<Record<string, Field>>;
}

const v = { id: 'id', version: 'int' } as const;

/** Every versioned table, by the name core gives it. Migrations make them; this says how rows become records. */
export const TABLES = {
  people: {
    table: 'person',
    fields: { ...v, name: 'text', shortName: 'text', mayOverride: 'bool', active: 'bool' },
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
      glyph: 'text',
      routeVersion: 'int',
    },
  },
  sections: {
    table: 'section',
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
    },
  },
  pieces: {
    table: 'piece',
    fields: {
      ...v,
      workId: 'id',
      series: 'text',
      number: 'int',
      of: 'int',
      state: 'text',
      markInWax: 'text',
      dueDate: 'day',
      holdReason: 'text',
      holdUntil: 'day',
      deliveredAt: 'instant',
      orderId: 'id',
      routeVersion: 'int',
    },
  },
  moulds: {
    table: 'mould',
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
    fields: {
      ...v,
      number: 'int',
      mouldId: 'id',
      startedAt: 'instant',
      endedAt: 'instant',
      wax: 'text',
      outcome: 'text',
    },
  },
  trees: { table: 'tree', fields: { ...v, number: 'int', alloyId: 'text', method: 'text', state: 'text' } },
  treeCasts: {
    table: 'tree_cast',
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
      reason: 'text',
    },
  },
  loadPlaces: { table: 'load_place', fields: { ...v, loadId: 'id', treeId: 'id', outcome: 'text' } },
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
      pigKg: 'double',
      reason: 'text',
    },
  },
  pourings: {
    table: 'pouring',
    fields: {
      ...v,
      heatId: 'id',
      treeId: 'id',
      order: 'int',
      plannedKg: 'double',
      pouredKg: 'double',
      metalC: 'double',
      tempWhere: 'text',
      startedAt: 'instant',
      seconds: 'double',
      outcome: 'text',
    },
  },
  chargeLines: {
    table: 'charge_line',
    fields: { ...v, heatId: 'id', what: 'text', alloyId: 'text', kg: 'double', lot: 'text', dry: 'bool' },
  },
  steps: {
    table: 'step',
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
      note: 'text',
      flags: 'json',
      pinKind: 'text',
      pinAt: 'instant',
    },
  },
  clients: { table: 'client', fields: { ...v, name: 'text', contact: 'text' } },
  orders: {
    table: 'client_order',
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
  weights: {
    table: 'weight',
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

export type TableName = keyof typeof TABLES;

const TYPES = {
  id: DataTypes.CHAR(36),
  int: DataTypes.INTEGER,
  double: DataTypes.DOUBLE,
  text: DataTypes.STRING(1000),
  bool: DataTypes.BOOLEAN,
  instant: DataTypes.DATE(3),
  day: DataTypes.DATEONLY,
  json: DataTypes.JSON,
};

export type Models = Record<TableName, ModelStatic<Model>>;

/** Defines the models on a connection. */
export function defineModels(db: Sequelize): Models {
  const make = (name: TableName) => {
    const { table, fields } = TABLES[name];
    const attributes: ModelAttributes = Object.fromEntries(
      Object.entries(fields).map(([field, type]) => [
        field,
        { type: TYPES[type as Field], primaryKey: field === 'id' },
      ]),
    );
    return db.define(name, attributes, { tableName: table, timestamps: false });
  };
  return Object.fromEntries((Object.keys(TABLES) as TableName[]).map((name) => [name, make(name)])) as Models;
}

type Row = Record<string, unknown>;

/** An instant as a raw query gives it. */
export const asInstant = (value: Date | string): Instant =>
  (value instanceof Date ? value : new Date(`${value}Z`)).toISOString();

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
) as Record<TableName, [string, Field][]>;

/** A row as the database gave it, as the record core knows. */
export function fromRow<T>(name: TableName, row: Row): T {
  const record: Row = {};
  for (const [field, type] of READ[name]) {
    const value = row[field];
    if (value === null || value === undefined) record[field] = null;
    else if (type === 'instant') record[field] = asInstant(value as Date | string);
    else if (type === 'bool') record[field] = value === true || value === 1;
    else if (type === 'json') record[field] = typeof value === 'string' ? JSON.parse(value) : value;
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

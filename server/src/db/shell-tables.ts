/** The shell room's versioned records. */
export const SHELL_RECORDS = {
  dryingPlaces: {
    table: 'drying_place',
    fields: { id: 'id', version: 'int', name: 'text', kind: 'text', airflow: 'double', hooks: 'int', state: 'text' },
  },
  drynessReadings: {
    table: 'dryness_reading',
    belongsTo: { treeId: 'trees', stepId: 'steps' },
    fields: {
      id: 'id',
      version: 'int',
      treeId: 'id',
      stepId: 'id',
      at: 'instant',
      means: 'text',
      dry: 'bool',
      share: 'double',
      formulaShare: 'double',
      note: 'text',
      byId: 'id',
      voidReason: 'text',
    },
  },
} as const;

/** What is kept beside them: the air, minute by minute thinned. */
export const SHELL_KEPT = {
  climate: {
    table: 'climate_reading',
    key: ['placeId', 'at'],
    belongsTo: { placeId: 'dryingPlaces' },
    fields: { placeId: 'id', at: 'instant', celsius: 'double', humidityPercent: 'double', source: 'text' },
  },
} as const;

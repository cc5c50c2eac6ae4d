/** The driver's error number behind a Sequelize error. */
export const errnoOf = (error: unknown): number | undefined =>
  (error as { parent?: { errno?: number } }).parent?.errno ?? (error as { errno?: number }).errno;

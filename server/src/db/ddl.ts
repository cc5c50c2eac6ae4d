// What migrations are written with.
export const ID = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin';
export const INSTANT = 'DATETIME(3)';

/** A table of records with an id each. */
export const table = (name: string, ...columns: string[]) =>
  `CREATE TABLE IF NOT EXISTS ${name} (id ${ID} NOT NULL PRIMARY KEY, ${columns.join(', ')}) ENGINE=InnoDB`;
export const version = 'version INT NOT NULL DEFAULT 1';
/** A column that names another record. */
export const ref = (column: string, to: string, rest = 'NOT NULL') =>
  `${column} ${ID} ${rest}, FOREIGN KEY (${column}) REFERENCES ${to}(id)`;

/** Statements that run once, in the order of their names. */
export interface Migration {
  readonly name: string;
  readonly statements: readonly string[];
}

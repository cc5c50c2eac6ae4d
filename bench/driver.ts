import * as mariadb from 'mariadb';

/** A connection of the bare driver to the database of a URL. */
export function driver(url: string): Promise<mariadb.Connection> {
  const { hostname, port, username, password, pathname } = new URL(url);
  return mariadb.createConnection({
    host: hostname,
    port: Number(port),
    user: username,
    password,
    database: pathname.slice(1),
  });
}

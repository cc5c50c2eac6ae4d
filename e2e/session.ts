// Signing in past the screens, for what a journey or a benchmark is not about.

/** What somebody's browser sends with every request. */
export type Signed = Readonly<Record<'Cookie' | 'X-Kalvet-Token', string>>;

export const PASSWORD = 'three brown otters';

/** Signs in where the answer sets a session's cookie. */
async function opened(base: string, path: string, body: object): Promise<Signed> {
  const answer = await fetch(`${base}/api${path}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  const cookie = answer.headers
    .getSetCookie()
    .map((each) => each.split(';')[0]!)
    .find((each) => each.startsWith('kalvet_session='));
  const { token } = (await (await fetch(`${base}/api/session`, { headers: { Cookie: cookie! } })).json()) as {
    token: string;
  };
  return { Cookie: cookie!, 'X-Kalvet-Token': token };
}

/** In a demo: somebody who is there, without a proof. */
export const asInDemo = (base: string, personId: string): Promise<Signed> =>
  opened(base, '/session/demo', { personId });

/** The first person of an empty shop, who manages it. */
export const setUpShop = (base: string, name: string, shortName: string): Promise<Signed> =>
  opened(base, '/set-up', { name, shortName, password: PASSWORD });

export const signIn = (base: string, name: string, password = PASSWORD): Promise<Signed> =>
  opened(base, '/session', { name, password });

/** Who a session is. */
export async function personOf(base: string, signed: Signed): Promise<string> {
  const { person } = (await (await fetch(`${base}/api/session`, { headers: signed })).json()) as {
    person: { id: string };
  };
  return person.id;
}

/** The statements that mark a fresh database as a demo's, before Kalvet makes its tables: its people are chosen by one tap. */
export const DEMO_MARK = [
  'CREATE TABLE IF NOT EXISTS setting (name VARCHAR(60) NOT NULL PRIMARY KEY, value JSON NOT NULL) ENGINE=InnoDB',
  `INSERT IGNORE INTO setting VALUES ('demo', '{"state":"laid","at":"2026-01-01T00:00:00.000Z","change":0}')`,
];

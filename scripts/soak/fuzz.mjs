// What nobody should send, and every address that it can be sent to: read from the routes' own files, so that none is forgotten.
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../lib/paths.mjs';

/** Not fuzzed: what ends the fuzzer's own sessions, and the stream. */
const LEFT_OUT = /\/(session|sessions|set-up|tablets)\b|\/changes$|\/password$|^\/people/;

export function routes() {
  const found = [];
  const walk = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }))
      if (entry.isDirectory()) walk(join(folder, entry.name));
      else if (entry.name.endsWith('.routes.ts'))
        for (const [, method, path] of readFileSync(join(folder, entry.name), 'utf8').matchAll(
          /routes\.(get|post|put|patch)\(\s*'([^']+)'/g,
        ))
          found.push({ method: method.toUpperCase(), path });
  };
  walk(join(ROOT, 'server/src'));
  return found.filter(({ path }) => !LEFT_OUT.test(path));
}

const TEXTS = [
  '',
  ' ',
  'x',
  'x'.repeat(100_000),
  '\u0000',
  '\ud800',
  '\u202egnikaer',
  "'; DROP TABLE work; --",
  '<script>alert(1)</script>',
  '../../etc/passwd',
  '${7*7}',
  '{{7*7}}',
  '%00',
  '🦦'.repeat(50),
  'null',
  '01a00000-0000-7000-8000-000000000001',
  '2027-02-30',
  '9999-12-31T23:59:59.999Z',
  '2027-03-01T08:00:00.000Z',
  '0049-03-01T08:00:00.000Z',
  '=HYPERLINK("x")',
];
const NUMBERS = [
  0,
  -0,
  -1,
  1,
  0.1,
  1e308,
  -1e308,
  Number.MAX_SAFE_INTEGER,
  2 ** 53,
  2 ** 31,
  1e-320,
  3.3333333333333335,
];
const KEYS = [
  'id',
  'version',
  'name',
  'contact',
  'title',
  'code',
  'sections',
  'moulds',
  'pieceIds',
  'dueDate',
  'reason',
  'until',
  'readings',
  'outcome',
  'endedAt',
  'startedAt',
  'by',
  'note',
  'steps',
  'treeIds',
  'record',
  'trees',
  'chargeLines',
  'crew',
  'typed',
  'weekly',
  'closed',
  'extra',
  'override',
  '__proto__',
  'constructor',
  'toString',
  'length',
  'kind',
  'times',
  'everyHours',
  'keep',
  'secondFolder',
  'castId',
  'what',
];

/** One request that no form makes. */
export function hostile(random, { method, path }) {
  const pick = (list) => list[Math.floor(random() * list.length)];
  const id = () =>
    pick([
      '01a00000-0000-7000-8000-000000000001',
      'not-an-id',
      '%2e%2e%2f',
      '0',
      encodeURIComponent(
        pick(TEXTS)
          .slice(0, 200)
          .replace(/[\ud800-\udfff]/g, ''),
      ),
      crypto.randomUUID(),
    ]);
  const value = (depth) => {
    const roll = random();
    if (roll < 0.3) return pick(TEXTS);
    if (roll < 0.5) return pick(NUMBERS);
    if (roll < 0.6) return pick([true, false, null]);
    if (depth > 4) return null;
    if (roll < 0.8)
      return Array.from({ length: pick([0, 1, 3, 40, 3000]) % (depth > 1 ? 41 : 3001) }, () =>
        random() < 0.5 ? null : value(depth + 3),
      );
    return object(depth + 1);
  };
  const object = (depth) => {
    const made = {};
    for (let i = 0; i < pick([0, 1, 3, 12]); i++)
      Object.defineProperty(made, pick(KEYS), { value: value(depth), enumerable: true, configurable: true });
    return made;
  };
  const query =
    random() < 0.3
      ? `?${Array.from({ length: 3 }, () => `${pick(['q', 'day', 'outcome', 'what', 'before', 'ticket', 'x[]', 'a[b][c]'])}=${encodeURIComponent(String(pick([...TEXTS.slice(0, 3), ...NUMBERS])).replace(/[\ud800-\udfff]/g, ''))}`).join('&')}`
      : '';
  const raw =
    random() < 0.1
      ? pick([
          '',
          '[',
          '[]',
          '"x"',
          '{"a":',
          'null',
          `{"a":${'['.repeat(5000)}`,
          `[${'0,'.repeat(50_000)}0]`,
          '{"__proto__":{"x":1}}',
          `{"a":"${'x'.repeat(250_000)}"}`,
        ])
      : undefined;
  const headers =
    random() < 0.1
      ? pick([
          { 'Idempotency-Key': 'x' },
          { 'X-Kalvet-Token': 'x' },
          { Accept: 'text/html' },
          { 'Accept-Encoding': 'x' },
          { 'If-None-Match': '*' },
          { 'Last-Event-ID': '-1' },
        ])
      : {};
  return { path: path.replace(/:\w+/g, id) + query, body: method === 'GET' ? undefined : object(0), raw, headers };
}

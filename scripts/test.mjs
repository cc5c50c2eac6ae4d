// `npm test`: everything there is to check, each part with its seconds; the last line adds them up.
// `npm test -- core server` runs only the named parts: lint, types, core (its specs on plain Node), screens (core and web
// specs in the browser), cli, instruments, scripts, server, journeys. Without a name core's specs run in the browser alone.
import { mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './lib/build.mjs';
import { startDatabase } from './lib/database.mjs';
import { exec } from './lib/exec.mjs';
import { ensureBrowser, ensureDatabasePrograms, ensureNodePackages } from './lib/install.mjs';
import { ROOT } from './lib/paths.mjs';
import { run, say } from './lib/say.mjs';

const bin = (path) => join(ROOT, 'node_modules', path);
const tally = { passed: 0, failed: 0 };

/** Runs one part and reads its closing line. `count` returns { passed, failed } of its output, or undefined: then it is one check. */
async function part(name, command, args, { cwd = ROOT, env, count } = {}) {
  const began = Date.now();
  const { code, out } = await exec(command, args, { cwd, env });
  const counted = count?.(out.replace(/\u001b\[[0-9;]*[A-Za-z]/g, ''));
  const result = counted ?? { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1 };
  if (code !== 0 && result.failed === 0) result.failed = 1;
  tally.passed += result.passed;
  tally.failed += result.failed;
  if (result.failed > 0) process.stdout.write(`${out}\n`);
  const seconds = ((Date.now() - began) / 1000).toFixed(1);
  say(`${name}: ${result.passed} passed, ${result.failed} failed (${seconds} s)`);
}

const karmaCount = (out) => {
  const total = [...out.matchAll(/TOTAL: (?:(\d+) FAILED, )?(\d+) SUCCESS/g)].pop();
  const executed = [...out.matchAll(/Executed (\d+) of \d+(?: \((\d+) FAILED\))?/g)].pop();
  if (total) return { passed: Number(total[2]), failed: Number(total[1] ?? 0) };
  if (executed) return { passed: Number(executed[1]) - Number(executed[2] ?? 0), failed: Number(executed[2] ?? 0) };
  return undefined;
};

const jasmineCount = (out) => {
  const line = /(\d+) specs?, (\d+) failures?/.exec(out);
  return line ? { passed: Number(line[1]) - Number(line[2]), failed: Number(line[2]) } : undefined;
};

const jasmine = ['--import', 'tsx', bin('jasmine/bin/jasmine.js'), '--config=jasmine.json'];

async function withDatabase(programs, work) {
  const folder = mkdtempSync(join(tmpdir(), 'kalvet-test-'));
  const database = await startDatabase({ folder, programs, fast: true, quiet: true });
  try {
    await work(database, folder);
  } finally {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

await run(async () => {
  const asked = process.argv.slice(2).filter((word) => !word.startsWith('-'));
  const wants = (name) => asked.length === 0 || asked.includes(name);
  await ensureNodePackages();
  // Core's specs want neither a database nor a browser.
  const alone = asked.length > 0 && asked.every((name) => name === 'core' || name === 'lint' || name === 'types');
  const programs = alone ? undefined : await ensureDatabasePrograms();
  if (!alone) await ensureBrowser();

  const lint = async () => {
    if (wants('lint')) {
      await part('lint', process.execPath, [bin('eslint/bin/eslint.js'), '.']);
      await part('format', process.execPath, [bin('prettier/bin/prettier.cjs'), '--check', '--log-level', 'warn', '.']);
    }
    if (!wants('types')) return;
    for (const project of ['core', 'core/tsconfig.spec.json', 'server', 'cli', 'instruments', 'bench', 'e2e'])
      await part(`types ${project}`, process.execPath, [bin('typescript/bin/tsc'), '-p', project]);
  };
  const screens = async () => {
    if (wants('screens'))
      await part('core and web specs', process.execPath, [bin('@angular/cli/bin/ng.js'), 'test'], {
        cwd: join(ROOT, 'web'),
        env: { NG_CLI_ANALYTICS: 'false' },
        count: karmaCount,
      });
  };
  const core = async () => {
    if (!asked.includes('core')) return;
    await build(['core-specs']);
    await part(
      'core specs',
      process.execPath,
      [bin('jasmine/bin/jasmine.js'), '--config=jasmine.json', '--parallel=2'],
      {
        cwd: join(ROOT, 'core'),
        count: jasmineCount,
      },
    );
  };
  const server = () =>
    wants('server') &&
    withDatabase(programs, async (database) => {
      await database.query('CREATE DATABASE kalvet_test CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci');
      const env = { KALVET_TEST_DB_URL: database.url('kalvet_test') };
      await part('server specs', process.execPath, jasmine, {
        cwd: join(ROOT, 'server'),
        env,
        count: jasmineCount,
      });
    });
  const scripts = () =>
    wants('scripts') &&
    part('specs of the scripts', process.execPath, [bin('jasmine/bin/jasmine.js'), '--config=jasmine.json'], {
      cwd: join(ROOT, 'scripts'),
      count: jasmineCount,
    });
  const instruments = () =>
    wants('instruments') &&
    part('stand-in instruments', process.execPath, jasmine, {
      cwd: join(ROOT, 'instruments'),
      count: jasmineCount,
    });
  const cli = () =>
    wants('cli') && part('command line', process.execPath, jasmine, { cwd: join(ROOT, 'cli'), count: jasmineCount });
  /** The journeys of a file, on the database of whoever runs them: one of them takes its database away from under a screen. */
  const journeysOf = async (file, { database, folder }) => {
    const env = {
      KALVET_JOURNEY_DB_URL: database.url('kalvet_journeys'),
      KALVET_JOURNEY_DATA: folder,
      KALVET_JOURNEY_DB_PID: String(database.pid),
      // A journey looks whether dates come, not how good they are; a planner that searches would slow the browser down.
      KALVET_PLAN_EFFORT: '0.1',
    };
    const name = `journeys: ${file.replace('.e2e.ts', '')}`;
    await part(name, process.execPath, [...jasmine, file], { cwd: join(ROOT, 'e2e'), env, count: jasmineCount });
  };
  /** Two at a time: a journey mostly waits. Their databases are made one after the other: two at once can fail. */
  const journeys = async () => {
    if (!wants('journeys')) return;
    // The longest first, so that none is left over for one alone at the end: those that walk every screen, then by their text.
    const slow = ['walk.e2e.ts', 'thread.e2e.ts'];
    const length = (name) => (slow.includes(name) ? Infinity : statSync(join(ROOT, 'e2e', name)).size);
    const queue = readdirSync(join(ROOT, 'e2e'))
      .filter((name) => name.endsWith('.e2e.ts'))
      .sort((one, other) => (length(one) === length(other) ? 0 : length(other) - length(one)));
    const work = async (own) => {
      await own.database.query('CREATE DATABASE kalvet_journeys CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci');
      for (let file = queue.shift(); file !== undefined; file = queue.shift()) await journeysOf(file, own);
    };
    await withDatabase(programs, (database, folder) =>
      withDatabase(programs, (other, otherFolder) =>
        Promise.all([work({ database, folder }), work({ database: other, folder: otherFolder })]),
      ),
    );
  };

  // Two cores: two things at a time, the journeys by themselves, since a busy machine makes a browser slow.
  if (wants('journeys')) await build(['cli', 'server', 'web', 'instruments']);
  await core();
  await Promise.all([server(), screens().then(cli).then(instruments).then(scripts).then(lint)]);
  await journeys();
});
process.stdout.write(`${tally.passed} passed, ${tally.failed + (process.exitCode ? 1 : 0)} failed\n`);
process.exit(tally.failed > 0 || process.exitCode ? 1 : 0);

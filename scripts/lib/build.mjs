// Builds what is out of date, by content, into a new folder that is swapped in when it is whole.
import { createHash } from 'node:crypto';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join, relative } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress } from 'node:zlib';
import { exec } from './exec.mjs';
import { DIST, ROOT } from './paths.mjs';
import { Told, say } from './say.mjs';

const EXAMPLES = ['floor.png', 'piece.png'];

const PARTS = {
  cli: {
    inputs: ['core/src', 'cli/src', 'scripts/lib/build.mjs', 'package-lock.json'],
    make: (outdir) => bundle(outdir, { main: 'cli/src/main.ts' }),
  },
  server: {
    inputs: ['core/src', 'server/src', 'demo', 'scripts/lib/build.mjs', 'package-lock.json'],
    make: (outdir) =>
      bundle(outdir, {
        main: 'server/src/main.ts',
        look: 'server/src/look.ts',
        recover: 'server/src/recover.ts',
        demo: 'demo/main.ts',
        practice: 'demo/practice.ts',
        planner: 'server/src/plan/planner.worker.ts',
        'set-up': 'server/src/work/set-up.worker.ts',
        weigher: 'server/src/weigh/model.worker.ts',
      }),
  },
  instruments: {
    inputs: ['core/src', 'instruments/src', 'scripts/lib/build.mjs', 'package-lock.json'],
    make: (outdir) => bundle(outdir, { main: 'instruments/src/main.ts' }),
  },
  'core-specs': {
    specs: true,
    inputs: ['core/src', 'scripts/lib/build.mjs', 'package-lock.json'],
    make: (outdir) => bundle(outdir, specsUnder('core/src')),
  },
  bench: {
    inputs: ['core/src', 'server/src', 'demo', 'bench', 'e2e', 'scripts/lib/build.mjs', 'package-lock.json'],
    make: (outdir) => bundle(outdir, { main: 'bench/main.ts' }),
  },
  web: {
    inputs: [
      ...['core/src', 'web/src', 'web/angular.json', 'web/tsconfig.json', 'tsconfig.base.json', 'package-lock.json'],
      ...EXAMPLES.map((name) => `docs/screenshots/${name}`),
    ],
    make: makeWeb,
  },
};

function* filesUnder(path) {
  if (!existsSync(path)) return;
  if (statSync(path).isFile()) yield path;
  else for (const name of readdirSync(path).sort()) yield* filesUnder(join(path, name));
}

/** Every spec of a folder as an entry of its own. */
const specsUnder = (folder) =>
  Object.fromEntries(
    [...filesUnder(join(ROOT, folder))]
      .filter((file) => file.endsWith('.spec.ts'))
      .map((file) => [relative(join(ROOT, folder), file).replace(/\.ts$/, ''), relative(ROOT, file)]),
  );

/** A hash over the names and contents of a part's sources; specs do not count but where they are what is built. */
function fingerprint(inputs, specs = false) {
  const hash = createHash('sha256');
  for (const input of inputs)
    for (const file of filesUnder(join(ROOT, input)))
      if (specs || !file.endsWith('.spec.ts'))
        hash.update(relative(ROOT, file)).update('\0').update(readFileSync(file)).update('\0');
  return hash.digest('hex');
}

/** Builds the named parts where their sources changed, telling so. */
export async function build(names = ['cli', 'server', 'web'], tell = say) {
  mkdirSync(DIST, { recursive: true });
  for (const name of names) {
    const { inputs, make, specs } = PARTS[name];
    const print = fingerprint(inputs, specs);
    const target = join(DIST, name);
    const stamp = join(target, '.built-from');
    if (existsSync(stamp) && readFileSync(stamp, 'utf8') === print) continue;
    tell(`building ${name} …`);
    const fresh = join(DIST, `.${name}-${process.pid}`);
    rmSync(fresh, { recursive: true, force: true });
    await make(fresh);
    writeFileSync(join(fresh, '.built-from'), print);
    swapIn(fresh, target, () => existsSync(stamp) && readFileSync(stamp, 'utf8') === print);
  }
}

/** Puts a whole new folder in the place of the old one; of two builds at once the first stays, where it is the same. */
function swapIn(fresh, target, same) {
  rmSync(target, { recursive: true, force: true });
  try {
    renameSync(fresh, target);
  } catch (error) {
    rmSync(fresh, { recursive: true, force: true });
    if (!same()) throw error;
  }
}

async function bundle(outdir, entries) {
  const esbuild = await import('esbuild');
  await esbuild.build({
    entryPoints: Object.fromEntries(Object.entries(entries).map(([name, path]) => [name, join(ROOT, path)])),
    outdir,
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    alias: { '@kalvet/core': join(ROOT, 'core/src') },
    sourcemap: true,
    keepNames: false,
    logLevel: 'warning',
    outExtension: { '.js': '.mjs' },
  });
}

async function makeWeb(outdir) {
  const ng = join(ROOT, 'node_modules/@angular/cli/bin/ng.js');
  const { code, out } = await exec(process.execPath, [ng, 'build', `--output-path=${outdir}`], {
    cwd: join(ROOT, 'web'),
    env: { NG_CLI_ANALYTICS: 'false' },
  });
  if (code !== 0) throw new Told(`the screens could not be built:\n${out}`);
  // The builder puts the pages one level down when the output folder is given on the command line.
  const inner = join(outdir, 'browser');
  if (existsSync(inner)) {
    for (const name of readdirSync(inner)) renameSync(join(inner, name), join(outdir, name));
    rmSync(inner, { recursive: true });
  }
  // The geometry kernel's program; the browser's worker fetches it where a model needs it.
  copyFileSync(join(ROOT, 'node_modules/manifold-3d/manifold.wasm'), join(outdir, 'manifold.wasm'));
  // What an empty shop shows as an example: the pictures of the demo foundry.
  mkdirSync(join(outdir, 'example'));
  for (const name of EXAMPLES) copyFileSync(join(ROOT, 'docs/screenshots', name), join(outdir, 'example', name));
  await packFiles(outdir);
}

/** Beside each script and style a tightly packed copy, made once, so that no visit waits for the packing. */
async function packFiles(folder) {
  const packed = promisify(brotliCompress);
  for (const name of readdirSync(folder).filter((each) => /\.(js|css|svg|wasm)$/.test(each)))
    writeFileSync(join(folder, `${name}.br`), await packed(readFileSync(join(folder, name))));
}

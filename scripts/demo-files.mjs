// `npm run demo:files`: makes the demo's models and pictures anew from the figures in demo/models. They are kept in the tree, since
// measuring them takes a minute.
import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { exec } from './lib/exec.mjs';
import { ensureNodePackages } from './lib/install.mjs';
import { DIST, ROOT } from './lib/paths.mjs';
import { run } from './lib/say.mjs';

await run(async () => {
  await ensureNodePackages();
  const esbuild = await import('esbuild');
  const folder = mkdtempSync(join(DIST, '.demo-files-'));
  try {
    await esbuild.build({
      entryPoints: [join(ROOT, 'demo/models/make.ts')],
      outfile: join(folder, 'make.mjs'),
      ...{ bundle: true, platform: 'node', format: 'esm', target: 'node20', packages: 'external' },
      alias: { '@kalvet/core': join(ROOT, 'core/src') },
    });
    const { code } = await exec(process.execPath, [join(folder, 'make.mjs'), join(ROOT, 'demo/files')], { show: true });
    if (code !== 0) process.exitCode = 1;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

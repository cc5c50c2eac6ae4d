import { build } from './lib/build.mjs';
import { ensureNodePackages } from './lib/install.mjs';
import { run } from './lib/say.mjs';

await run(async () => {
  await ensureNodePackages();
  await build();
});

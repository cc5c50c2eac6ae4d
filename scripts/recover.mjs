// `npm run recover -- "Name"`: a way back in where nobody can sign in any more. Only who may use this machine can run it.
import { build } from './lib/build.mjs';
import { run } from './lib/say.mjs';
import { runBundle } from './lib/serve.mjs';
import { withRecords } from './lib/with-records.mjs';

await run(async () => {
  const args = process.argv.slice(2).filter((word) => !word.startsWith('-'));
  await withRecords('giving a new password', async ({ reach, database }) => {
    await build(['server']);
    const env = { KALVET_DB_URL: process.env.KALVET_DB_URL ?? database.url(reach.name) };
    process.exitCode = await runBundle('recover.mjs', args, env).ended;
  });
});

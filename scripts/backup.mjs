// `npm run backup [FILE]`: a proven copy of the records, while Kalvet runs or while it does not.
import { resolve } from 'node:path';
import { backUp } from './lib/backup-round.mjs';
import { withRecords } from './lib/with-records.mjs';
import { run } from './lib/say.mjs';

await run(async () => {
  const [file] = process.argv.slice(2).filter((word) => !word.startsWith('-'));
  await withRecords('making a backup', ({ reach }) => backUp(reach, { why: 'asked', file: file && resolve(file) }));
});

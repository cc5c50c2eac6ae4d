import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { compare, copyTo, fileFor, keepNewest } from './backup.mjs';
import { rotate } from './logs.mjs';
import { MANIFEST, RECORDS, pack, unpack } from './package-file.mjs';
import { counting } from './records.mjs';

describe('a backup', () => {
  const folder = mkdtempSync(join(tmpdir(), 'kalvet-backup-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  const counted = async (text, pieces = 7) => {
    const { through, found } = counting();
    const bytes = Buffer.from(text);
    const parts = [];
    for (let i = 0; i < bytes.length; i += pieces) parts.push(bytes.subarray(i, i + pieces));
    through.resume();
    await pipeline(Readable.from(parts), through);
    return found();
  };
  const DUMP = [
    'CREATE TABLE `work` (',
    '  `id` char(36)',
    ') ;',
    'INSERT INTO `work` VALUES',
    "('a','Otter; (with) reed\\nand water'),",
    "('b','Mallet');",
    'INSERT INTO `person` VALUES',
    "('c','Ines');",
    '',
  ].join('\n');

  it('counts its rows as they go by, however the bytes are cut, and hashes each table by its rows alone', async () => {
    const found = await counted(DUMP);
    expect(Object.entries(found.tables).map(([name, { rows }]) => [name, rows])).toEqual([
      ['work', 2],
      ['person', 1],
    ]);
    expect(found.bytes).toBe(Buffer.byteLength(DUMP));
    expect((await counted(DUMP, 1)).sha256).toBe(found.sha256);
    // The same rows in two statements are the same rows.
    const split = DUMP.replace("water'),\n", "water');\nINSERT INTO `work` VALUES\n");
    expect((await counted(split)).tables.work.sha256).toBe(found.tables.work.sha256);
    const other = await counted(DUMP.replace('Mallet', 'Maller'));
    expect(() => compare(found, found, 'x.tar', true)).not.toThrow();
    expect(() => compare(found, other, 'x.tar', true)).toThrowError(/work \(2 rows written, 2 read\)/);
    const fewer = await counted(DUMP.replace(",\n('b','Mallet')", ''));
    expect(() => compare(found, fewer, 'x.tar', false)).toThrowError(/work \(2 rows written, 1 read\)/);
  });

  it('is one file with a manifest and the records, and says what is wrong with one that is none or was cut off', async () => {
    const records = join(folder, 'records');
    writeFileSync(records, 'x'.repeat(5000));
    const file = join(folder, 'one.tar');
    const manifest = { kalvetBackup: 1, madeAt: '2027-03-01T08:00:00.000Z', tables: {} };
    await pack(file, manifest, records);
    expect([existsSync(`${file}.part`), statSync(file).mode & 0o077]).toEqual([false, 0]);
    const into = join(folder, 'out');
    expect(await unpack(file, into)).toEqual(manifest);
    expect(readFileSync(into, 'utf8').length).toBe(5000);
    expect(readFileSync(file).includes(MANIFEST) && readFileSync(file).includes(RECORDS)).toBeTrue();
    truncateSync(file, 3000);
    await expectAsync(unpack(file, into)).toBeRejectedWithError(/one\.tar is not a backup of Kalvet that can be read/);
    writeFileSync(file, 'hello');
    await expectAsync(unpack(file, into)).toBeRejectedWithError(/is not a backup/);
    await pack(join(folder, 'two.tar'), { ...manifest, kalvetBackup: 2 }, records);
    await expectAsync(unpack(join(folder, 'two.tar'))).toBeRejectedWithError(/its form is 2, this Kalvet reads form 1/);
  });

  it('stays among the newest of its reason; those made before a change are counted apart', () => {
    const kept = join(folder, 'kept');
    mkdirSync(kept);
    const name = (day, why) =>
      fileFor(why, new Date(`2027-03-${day}T08:05:09Z`))
        .split('/')
        .pop();
    expect(name('01', 'before migration')).toBe('kalvet-2027-03-01-0805-09-before-migration.tar');
    for (const day of ['01', '02', '03', '04']) writeFileSync(join(kept, name(day, 'schedule')), '');
    writeFileSync(join(kept, name('01', 'before migration')), '');
    writeFileSync(join(kept, 'mine.tar'), '');
    expect(keepNewest(kept, 'schedule', 2).sort()).toEqual([name('01', 'schedule'), name('02', 'schedule')]);
    expect(readdirSync(kept).length).toBe(4);
  });

  it('is copied to a second place whole, or says that it is not there', () => {
    const file = join(folder, 'kalvet.tar');
    writeFileSync(file, 'whole');
    const second = join(folder, 'second');
    expect(() => copyTo(second, file)).toThrowError(/the second place .*second cannot be written/);
    mkdirSync(second);
    expect(readFileSync(copyTo(second, file), 'utf8')).toBe('whole');
    expect(readdirSync(second)).toEqual(['kalvet.tar']);
  });
});

describe('a log', () => {
  it('is put aside under a number when it has grown, five times, and never emptied', () => {
    const folder = mkdtempSync(join(tmpdir(), 'kalvet-log-'));
    const file = join(folder, 'kalvet.log');
    for (let i = 1; i <= 7; i++) {
      writeFileSync(file, `part ${i}`);
      rotate(file, 5);
    }
    const kept = readdirSync(folder).sort();
    expect(kept).toEqual([1, 2, 3, 4, 5].map((i) => `kalvet.log.${i}`));
    expect(readFileSync(join(folder, 'kalvet.log.1'), 'utf8')).toBe('part 7');
    writeFileSync(file, 'abc');
    rotate(file, 5);
    expect(readFileSync(file, 'utf8')).toBe('abc');
    rmSync(folder, { recursive: true });
  });
});

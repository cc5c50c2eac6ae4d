import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { By } from 'selenium-webdriver';
import type { CoatsAnswer, DayAnswer, KilnAnswer, NextStep, TanksAnswer } from '@kalvet/core';
import { loggerFile } from '../instruments/src/kiln.ts';
import { Browser } from './browser.ts';
import { Kalvet, until } from './kalvet.ts';
import { Prepared } from './prepare.ts';

const HOUR_MS = 3_600_000;
const hoursAgo = (hours: number) => new Date(Date.now() - hours * HOUR_MS).toISOString();

describe('shell room and kiln', () => {
  let kalvet: Kalvet;
  let browser: Browser;
  let shop: Prepared;
  let folder: string;

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'kalvet-kiln-'));
    kalvet = await Kalvet.start('kalvet_shell_kiln');
    shop = await Prepared.open(kalvet, 'Ines Marlow', 'IM');
    browser = await Browser.open(kalvet.url);
    await browser.go('/floor');
    await browser.click('.person:not([aria-label])');
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
    rmSync(folder, { recursive: true, force: true });
  });

  const coats = () => kalvet.get<CoatsAnswer>('/coats');
  const rowOf = async (dip: NextStep) => (await coats()).rows.find(({ treeId }) => treeId === dip.carrierId)!;

  it('a damp day moves the dips, on Coats, the Day sheet and in the plan', async () => {
    const { pieceIds } = await shop.setUp('MAL', 'Caulking Mallet', 1);
    const dip = await shop.carry(pieceIds[0]!, ({ name }) => name.startsWith('Dip coat 3'), 31);
    const before = (await rowOf(dip)).readyAt!;
    // The shell room is entered, and what stands on its dial.
    await browser.go('/coats');
    await browser.click('[data-test=places]');
    await browser.click('[data-test=new-place]');
    await browser.type('#p-name', 'Shell room');
    await browser.click('[data-test=save-place]');
    await until('the room', async () => (await coats()).places.length === 1);
    const write = async (celsius: string, humidity: string, at: string) => {
      await browser.go('/coats');
      await browser.click('[data-test=read-climate]');
      await browser.type('#c-t', celsius);
      await browser.type('#c-rh', humidity);
      if (at !== '') await browser.type('#c-at', at);
      await browser.click('[data-test=save-climate]');
    };
    const typed = new Date(Date.parse(hoursAgo(60)));
    const two = (value: number) => String(value).padStart(2, '0');
    await write(
      '22,0',
      '50',
      `${typed.getUTCDate()}.${typed.getUTCMonth() + 1}.${typed.getUTCFullYear()} ${two(typed.getUTCHours())}:${two(typed.getUTCMinutes())}`,
    );
    await until(
      'the air',
      async () => (await coats()).places[0]!.readings.length === 1 || (await coats()).places[0]!.kelvin !== null,
    );
    // Swapped, it says so at its field, and nothing is kept.
    await write('55', '21', '');
    await browser.says('were the two swapped?');
    await write('20,2', '85', '');
    const damp = await until('a later dip', async () => {
      const row = await rowOf(dip);
      return row.drying !== null && row.readyAt! > before ? row : undefined;
    });
    expect(damp.drying!.referenceK).toBeCloseTo(6.51, 2);
    await browser.go('/coats');
    await browser.says('hardly dry');
    const line = async () => {
      const { lines } = await kalvet.get<DayAnswer>('/day');
      return lines.find(({ stepId }) => stepId === dip.stepId);
    };
    const told = await line();
    if (told) expect(told.readyAt).toBe(damp.readyAt);
    // Planned anew, it is dipped when it is dry, and no sooner.
    await until('a plan that waits for it', async () => {
      const row = await rowOf(dip);
      return row.plannedStart !== null && row.plannedStart >= damp.readyAt!.slice(0, 16);
    });
    // Somebody looks, finds it dry, and it is dipped.
    await browser.click('.track');
    await browser.click('[data-test=dry]');
    await until('dry', async () => (await rowOf(dip)).readyAt! <= new Date().toISOString());
  });

  it('a mixer that stood still stops the dipping, puts coats in doubt, and goes on once it is decided', async () => {
    const { pieceIds } = await shop.setUp('HER', 'Heron', 1);
    const dip = await shop.carry(pieceIds[0]!, ({ name }) => name.startsWith('Dip coat 4'), 60);
    await browser.go('/coats/tanks');
    await browser.click('[data-test=new-tank]');
    await browser.type('#v-name', 'Back-up tank');
    await browser.press('back-up');
    await browser.type('#v-l', '320');
    await browser.type('#v-d', '1.7');
    await browser.click('[data-test=save-tank]');
    await browser.click('[data-test=check-backup]');
    await browser.press('stands still');
    await browser.says('Nothing is dipped in this tank from then on');
    await browser.click('[data-test=save-check]');
    const tanks = () => kalvet.get<TanksAnswer>('/tanks');
    await until('a blocked tank', async () => (await tanks()).tanks[0]!.stand.blockedSince !== null);
    await until('a coat in doubt', async () => (await tanks()).tanks[0]!.inDoubt > 0);
    await browser.go('/coats');
    await browser.says('the mixer stood still');
    expect((await rowOf(dip)).coats[0]!.flags[0]).toContain('in doubt');
    await browser.go('/coats/tanks');
    await browser.click('[data-test=decide-backup]');
    await browser.press('stand: the slurry was found sound');
    await browser.type('#q-words', 'fuse changed, stirred for an hour, 22.1 s');
    await browser.click('[data-test=decide-tank]');
    await until('going on', async () => (await rowOf(dip)).waits.length === 0);
    expect((await rowOf(dip)).coats[0]!.flags[0]).toContain('stands, Ines Marlow');
  });

  it('a load from its packing to its wax: laid on the floor, lit, read in, held too short, weighed', async () => {
    const { pieceIds } = await shop.setUp('OTT', 'Otter with Reed', 2);
    for (const [i, id] of pieceIds.entries()) await shop.carry(id, ({ kind }) => kind === 'fire', 200 - 40 * i);
    const kiln = () => kalvet.get<KilnAnswer>('/kiln');
    await browser.go('/kiln');
    await browser.click('[data-test=new-profile]');
    await browser.type('#r-name', 'Shells, 930');
    await browser.type('#r-to-0', '930');
    await browser.type('#r-rate-0', '300');
    await browser.type('#r-hold-0', '100');
    await browser.click('[data-test=save-profile]');
    await until('the profile', async () => (await kiln()).profiles.length === 1);
    await browser.go('/kiln');
    await browser.click('[data-test=fill]');
    await browser.says('of the floor');
    await browser.click('[data-test=plan-load]');
    const load = await until('the load', async () => (await kiln()).loads.find(({ trees }) => trees.length >= 2));
    expect(load.trees.every(({ floor }) => floor !== null)).toBeTrue();
    await browser.click('[data-test=light]');
    await browser.click('[data-test=light-it]');
    await browser.says('say which, and where');
    await browser.tick('cups');
    await browser.click('[data-test=light-it]');
    await until('burning', async () => (await kiln()).loads[0]!.state === 'running');
    // The stand-in's logger: the gas ran low eighteen minutes before its end.
    const file = join(folder, 'firing.csv');
    const lit = Date.now() - 6.5 * HOUR_MS;
    writeFileSync(file, loggerFile(lit, 6.5 * 60 - 1, { offAfterMin: 233 }));
    await browser.driver.findElement(By.css('[data-test=kiln-file]')).sendKeys(file);
    await browser.says('4 thermocouples kept');
    await browser.says('short by');
    await browser.click('[data-test=end]');
    await browser.type('#u-top', '928');
    await browser.type('#u-wax', '0,9');
    await browser.type('#u-kwh', '212');
    await browser.says('of wax are missing');
    await browser.click('[data-test=end-load]');
    await until('recorded', async () => (await kiln()).past.length > 0 && (await kiln()).loads.length === 0);
    await browser.go(`/loads/${load.id}`);
    await browser.says('look into the shells');
    await browser.says('a kilogram of shell');
  });
});

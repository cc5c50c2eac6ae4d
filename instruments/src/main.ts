// Stand-ins for a dipped and an infrared pyrometer, the furnace's controller and its meter: they speak like the real ones and
// play a pour; climate sensors, a flow cup and a scale at a tank and the kiln's thermocouples beside them (`--play=pour` or
// `--play=shell` for one of the two, `--kiln-file=firing.csv` for a logger's file). `npm run instruments -- --fast=20 --seed=3`; KALVET_MQTT_URL says where Kalvet listens.
import { alloyOf } from '@kalvet/core';
import { connectAsync } from 'mqtt';
import { chance } from './chance.ts';
import { COLD, later, molten } from './furnace.ts';
import type { StandInFurnace } from './furnace.ts';
import { playShell, writeKilnFile } from './shell-play.ts';
import { CONTROLLER, IMMERSION, INFRARED, Signal } from './signal.ts';

const option = (name: string, usual: number): number => {
  const given = process.argv.find((word) => word.startsWith(`--${name}=`))?.split('=')[1];
  const value = given === undefined ? usual : Number(given);
  if (!Number.isFinite(value) || value <= 0) throw new Error(`--${name} must be a number above zero, not ${given}`);
  return value;
};

const url = process.env['KALVET_MQTT_URL'] ?? 'mqtt://127.0.0.1:4310';
/** Seconds of the play in a second of the clock. */
const fast = option('fast', 10);
const random = chance(option('seed', 1907));
const furnace: StandInFurnace = {
  alloy: alloyOf('C87300'),
  chargeKg: option('charge', 90),
  powerKw: 110,
  efficiency: 0.12,
  targetC: option('target', 1205),
  coolingPerMin: 7.4 / 1130,
};
const word = (name: string): string | undefined =>
  process.argv.find((each) => each.startsWith(`--${name}=`))?.split('=')[1];
const kilnFile = word('kiln-file');
if (kilnFile) {
  writeKilnFile(kilnFile, option('hours', 6.5));
  process.exit(0);
}
const plays = word('play') ?? 'all';

/** A chance a reading, from 0 to 1. */
const chanceOf = (name: string, usual: number): number => Math.min(1, option(name, usual || 1e-9));

/** A reading a second by the clock, and a probe that is dipped for so long, every so often, seconds of the play. */
const DIP_S = 45;
const DIP_EVERY_S = 150;
const POUR_S = 20 * 60;

try {
  const client = await connectAsync(url, { connectTimeout: 4000, reconnectPeriod: 2000 });
  console.log(`instruments: speaking to ${url}, ${fast} times as fast as life (Ctrl-C ends)`);
  const say = (code: string, message: object) =>
    client.publish(`kalvet/instruments/${code}`, JSON.stringify({ ...message, at: new Date().toISOString() }));
  const isRehearsal = process.argv.includes('--rehearsal');
  if (plays !== 'pour' && !isRehearsal) playShell(say, fast, random);
  const dipped = new Signal(
    {
      ...IMMERSION,
      wrongUnit: chanceOf('wrong-unit', IMMERSION.wrongUnit),
      dropout: chanceOf('dropout', IMMERSION.dropout),
    },
    random,
  );
  const infrared = new Signal(INFRARED, random);
  const controller = new Signal(CONTROLLER, random);
  let melt = COLD;
  let playedS = 0;
  // In a rehearsal the metal is at its temperature already, and waits for the word.
  if (isRehearsal) melt = molten(furnace);
  let go = !isRehearsal;
  process.on('message', (word) => (go ||= word === 'tap'));
  process.on('disconnect', () => process.exit(0));
  let tappedS = -1;
  let told = '';
  const playPour = () => {
    const isReady = melt.celsius >= furnace.targetC - 0.5;
    if (tappedS < 0 && isReady && go) tappedS = playedS + (isRehearsal ? 0 : 60);
    const isTapped = tappedS >= 0 && playedS >= tappedS;
    melt = later(furnace, melt, fast, isTapped);
    playedS += fast;
    const words = isTapped
      ? 'tapped: pour'
      : isReady
        ? 'at its temperature'
        : melt.celsius > furnace.alloy.liquidusC
          ? 'molten'
          : 'melting';
    if (words !== told) console.log(`instruments: ${words}, ${melt.celsius.toFixed(0)} °C`);
    told = words;
    // Played very fast the probe stays in: a dip would be over between two readings.
    const isDipped =
      melt.celsius > furnace.alloy.liquidusC && (isRehearsal || fast > DIP_S / 3 || playedS % DIP_EVERY_S < DIP_S);
    const reads = dipped.look(isDipped ? melt.celsius : 60, fast);
    if (reads && isDipped) say('pyro-1', reads);
    const seen = infrared.look(melt.celsius - 6, fast);
    if (seen && melt.celsius > 600) say('infrared-1', seen);
    const wall = controller.look(melt.wallC, fast);
    if (wall) say('controller-1', wall);
    say('meter-1', { value: Math.round((1_284_000 + melt.kwh / 10.5) * 100) / 100, unit: 'm³' });
    if (isTapped && playedS > tappedS + POUR_S) {
      melt = { ...COLD, kwh: melt.kwh, wallC: melt.wallC };
      tappedS = -1;
    }
  };
  if (plays !== 'shell') setInterval(playPour, 1000);
} catch (error) {
  console.error(
    `instruments: nobody listens at ${url} (${(error as Error).message}). Start Kalvet first, or say where with KALVET_MQTT_URL.`,
  );
  process.exit(1);
}

import type { Figure } from '@kalvet/core';
import { secondsUntil } from '@kalvet/core';
import { metalStand, shellStand } from './stand';

const cup: Figure = { value: 1150, unit: '°C', plusMinus: 15, source: 'computed', inWords: '', inputs: {} };

describe('what stands beside the next tree', () => {
  it('is metal too cold, good or too hot for its cup; in the crucible 30 K more are wanted', () => {
    expect(metalStand(cup, 30, { celsius: 1140, where: 'cup' })).toEqual({ offK: -10, is: 'good' });
    expect(metalStand(cup, 30, { celsius: 1160, where: 'furnace' })).toEqual({ offK: -20, is: 'cold' });
    expect(metalStand(cup, 30, { celsius: 1200, where: 'ladle' }).is).toBe('hot');
  });

  it('is a shell of 8 mm out of the kiln: 732 °C after 30 s, 641 after 60, ready from 721 down to 400', () => {
    const shell = { fromC: 870, wallMm: 8, share: 1 };
    const out = { ...shell, fromS: secondsUntil(721, shell), toS: secondsUntil(400, shell) };
    const at = (seconds: number) => shellStand(out, seconds);
    expect([Math.round(at(30).celsius), at(30).is]).toEqual([732, 'too hot']);
    expect([Math.round(at(60).celsius), at(60).is]).toEqual([641, 'ready']);
    expect(at(60).leftS).toBeCloseTo(out.toS - 60, 6);
    expect([at(300).is, at(300).leftS]).toEqual(['too cold', 0]);
  });

  it('goes on from a reading of the mould: read at 732 °C after 50 s it is where it was thought to be after 30', () => {
    const shell = { fromC: 870, wallMm: 8, share: 1 };
    const out = { ...shell, fromS: secondsUntil(721, shell), toS: secondsUntil(400, shell) };
    const read = { celsius: 732, atS: 50 };
    expect(Math.round(shellStand(out, 80, read).celsius)).toBe(Math.round(shellStand(out, 60).celsius));
    // A reading that is not taken yet changes nothing.
    expect(shellStand(out, 40, read)).toEqual(shellStand(out, 40));
  });
});

import { addMinutes } from '../units/instant.ts';
import { inWords } from '../units/words.ts';
import type { InstrumentMessage } from './understand.ts';
import { understand } from './understand.ts';

const NOW = '2026-12-03T13:00:00.000Z';
const before = { value: 1150, at: addMinutes(NOW, -1 / 60) };
const read = (message: Partial<InstrumentMessage>, last?: typeof before) => {
  const found = understand('immersion', { value: 1151, unit: '°C', ...message }, NOW, last);
  if ('wrong' in found) throw new Error(inWords(found.wrong));
  return found;
};

describe('what an instrument sends', () => {
  it('is kept in °C, from °F and K too', () => {
    expect(read({ value: 2100, unit: 'F' }).value).toBeCloseTo(1148.9, 1);
    expect(read({ value: 1423.15, unit: 'K' }).value).toBeCloseTo(1150, 6);
  });

  it('has come to rest where it changes by less than 1.5 K a second; the first reading has not', () => {
    expect(read({}).settled).toBeFalse();
    expect(read({ value: 1151.2 }, before).settled).toBeTrue();
    expect(read({ value: 1100 }, before).settled).toBeFalse();
  });

  it('that jumps to what its metal would be in °F was sent in the wrong unit, and says so', () => {
    // 1155 °C are 2111 °F.
    const found = read({ value: 2111 }, before);
    expect(found.value).toBeCloseTo(1155, 0);
    expect(inWords(found.doubt!)).toBe('2111 °C came in; taken as °F');
    // Dipped out of the metal it falls: no unit explains that.
    expect(read({ value: 300 }, before)).toEqual(jasmine.objectContaining({ value: 300, doubt: null }));
  });

  it('counts from when it came in where its clock jumped by more than a minute', () => {
    const late = read({ at: addMinutes(NOW, -90) }, before);
    expect([late.at, inWords(late.doubt!)]).toEqual([NOW, 'its clock is off by 5400 s']);
    const own = addMinutes(NOW, -0.5);
    expect(read({ at: own }).at).toBe(own);
  });

  it('that cannot be is not understood', () => {
    const wrong = (message: InstrumentMessage, kind: 'immersion' | 'meter' = 'immersion') =>
      inWords((understand(kind, message, NOW) as { wrong: string }).wrong);
    expect(wrong({ value: 9000, unit: 'C' })).toBe('9000 °C cannot be');
    expect(wrong({ value: Number.NaN, unit: 'C' })).toBe('the value is no number');
    expect(wrong({ value: 20, unit: 'psi' })).toContain('psi is not known');
    expect(wrong({ value: -1, unit: '' }, 'meter')).toBe('a meter counts upwards');
  });
});

import { alloyOf } from '../materials/alloys.ts';
import { inWords } from '../units/words.ts';
import { lightUp } from './light-up.ts';
import { meltMinutes } from './melt-minutes.ts';

describe('when to light up', () => {
  const furnace = { powerKw: 110, efficiency: 0.12 };
  const alloy = alloyOf('C87300');
  const at = (hour: string) => `2027-03-04T${hour}:00.000Z`;
  const minutes = (pours: readonly string[], lining = 60) =>
    lightUp({ at: at('13:00'), chargeKg: 80, alloy }, pours, furnace, lining).value;
  const melts = meltMinutes(80, alloy, furnace).value;

  it('counts the lining in a cold furnace, and not four hours or less after another pour', () => {
    expect(minutes([at('13:00')])).toBe(melts + 60);
    expect(minutes([at('13:00'), at('09:00')])).toBe(melts);
    expect(minutes([at('13:00'), at('08:59')])).toBe(melts + 60);
    // One that comes later warms nothing.
    expect(minutes([at('13:00'), at('14:00')])).toBe(melts + 60);
  });

  it('says so in words, and needs no lining where the shop’s furnace has none', () => {
    const figure = lightUp({ at: at('13:00'), chargeKg: 80, alloy }, [], furnace, 60);
    expect(inWords(figure.inWords)).toContain('the cold lining takes 60 min more');
    expect(minutes([], 0)).toBe(melts);
  });
});

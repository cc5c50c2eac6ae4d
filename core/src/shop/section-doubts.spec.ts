import type { SectionGiven } from '../records/work-writes.ts';
import { inWords } from '../units/words.ts';
import { sectionDoubt, sectionDoubts } from './section-doubts.ts';

const section = (rest: Partial<SectionGiven>): SectionGiven => ({
  name: 'Body',
  wallMm: 5,
  metalHeightMm: null,
  expectedWaxKg: null,
  areaCm2: 1600,
  seamM: null,
  deep: false,
  ...rest,
});

describe('a section as it is entered', () => {
  it('is asked about where its wax does not fit its wall over its area, with what was probably meant', () => {
    // 0.5 cm × 1600 cm² × 0.93 g/cm³ = 0.744 kg of wax.
    const asked = sectionDoubt(section({ expectedWaxKg: 750 }), 'sections.0')!;
    expect(inWords(asked.says)).toBe('Body 750.000 kg, but a wall of 5 mm over 1600 cm² takes 0.74 kg');
    expect([asked.field, asked.instead!.value]).toEqual(['sections.0.expectedWaxKg', 0.75]);
    // An area in square decimetres: no slip of the wax explains it.
    expect(sectionDoubt(section({ expectedWaxKg: 0.75, areaCm2: 16 }), 'x')!.instead!.value).toBeCloseTo(0.0075, 6);
  });

  it('is not asked about within a third to three times, or where one of the three is not known', () => {
    const none = [0.25, 0.75, 2.2].map((expectedWaxKg) => section({ expectedWaxKg }));
    expect(sectionDoubts([...none, section({ expectedWaxKg: 750, areaCm2: null }), section({})])).toEqual([]);
  });
});

import type { SetUpWork } from '@kalvet/core';
import { enquiryWork, heightOf } from './enquiry-work';

const section = {
  name: 'Body',
  wallMm: 5,
  metalHeightMm: 300,
  expectedWaxKg: 0.8,
  areaCm2: 1600,
  seamM: 0.4,
  deep: false,
  typed: { metalHeightMm: '11.8 in' },
};
const otter: SetUpWork = {
  id: 'w-1',
  code: 'OTT',
  title: 'Otter with Reed',
  artist: 'Wilma Tarn',
  editionSize: 12,
  artistProofs: 1,
  alloyId: 'C87300',
  method: 'shell',
  approval: 'first',
  finish: 'brown',
  glyph: 'otter',
  dueDate: null,
  finishing: 'patina',
  sections: [section, { ...section, name: 'Reed', metalHeightMm: 200 }],
  moulds: [
    { name: 'Body', sections: [1], pullsBefore: 3 },
    { name: 'Body 2', sections: [1], pullsBefore: 0 },
    { name: 'Reed', sections: [2], pullsBefore: 0 },
  ],
};
const asked = { title: 'Otters, larger', pieces: 2, wantedBy: '2027-07-01', heightMm: 600, like: otter };

describe('a work that is asked for', () => {
  it('is like another one but for its size: lengths by it, areas and hollow wax by its square', () => {
    const work = enquiryWork(asked, 'w-2', ['OTT']);
    // 600 mm instead of 300 mm: twice as long, four times the area; the wall stays, so four times the wax.
    expect(work.sections[0]).toEqual({
      ...section,
      metalHeightMm: 600,
      expectedWaxKg: 3.2,
      areaCm2: 6400,
      seamM: 0.8,
      typed: {},
    });
    expect(work.sections[1]!.metalHeightMm).toBe(400);
    expect([work.id, work.code, work.editionSize, work.artistProofs, work.dueDate]).toEqual([
      'w-2',
      'OT2',
      2,
      0,
      '2027-07-01',
    ]);
    // A second mould of the same section is the other edition's.
    expect(work.moulds).toEqual([
      { name: 'Body', sections: [1], pullsBefore: 0 },
      { name: 'Reed', sections: [2], pullsBefore: 0 },
    ]);
  });

  it('keeps the size where nobody says another, and is one plain cast where it is like nothing', () => {
    expect(enquiryWork({ ...asked, heightMm: null }, 'w-2', []).sections[0]!.expectedWaxKg).toBe(0.8);
    const plain = enquiryWork({ ...asked, like: undefined }, 'w-2', []);
    expect(plain.sections.map(({ name, metalHeightMm, wallMm }) => [name, metalHeightMm, wallMm])).toEqual([
      ['Whole', 600, 5],
    ]);
    expect([heightOf(otter), heightOf(undefined)]).toEqual([300, null]);
  });
});

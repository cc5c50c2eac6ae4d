import { ringArcs } from './ring';

const sections = (...rooms: ('wax' | 'shell' | 'pour')[]) => rooms.map((room) => ({ room }));

describe('the ring of a piece', () => {
  it('has none for one section', () => {
    expect(ringArcs(sections('wax'))).toEqual([]);
  });

  it('has an arc a section, in the rooms’ order clockwise whatever the order given', () => {
    expect(ringArcs(sections('pour', 'wax', 'shell')).map(({ room }) => room)).toEqual(['wax', 'shell', 'pour']);
    expect(ringArcs(sections('pour', 'wax')).at(-1)!.to).toBe(1);
  });

  it('above eight sections shows one arc a room, as long as its share', () => {
    const arcs = ringArcs(
      sections('shell', 'shell', 'wax', 'shell', 'shell', 'shell', 'wax', 'shell', 'shell', 'pour'),
    );
    expect(arcs.map(({ room, from, to }) => [room, Math.round((to - from) * 10)])).toEqual([
      ['wax', 2],
      ['shell', 7],
      ['pour', 1],
    ]);
  });
});

import type { Room } from '@kalvet/core';
import { railCounts } from '@kalvet/core';
import { floorPiece, nextStep } from '../testing/pieces';
import { bed, page, show } from '../testing/screen';
import { Rail } from './rail.component';

describe('the rail', () => {
  const now = '2027-03-01T10:00:00.000Z';

  it('counts casts, trees and pieces as each room does, a shared tree once', () => {
    const onTree = (number: number) =>
      floorPiece(number, ['shell'], { next: [nextStep({ carrierId: 'shared', stepId: 'dip' })] });
    const counts = railCounts(
      [onTree(1), onTree(2), floorPiece(3, ['wax', 'wax']), floorPiece(4, ['chasing', 'chasing'], { late: true })],
      now,
    );
    const at = (wanted: Room) => counts.find(({ room }) => room === wanted)!;
    expect([at('shell').text, at('shell').ready]).toEqual(['1 tree', 1]);
    expect(at('wax').text).toBe('2 casts');
    expect([at('chasing').text, at('chasing').late]).toEqual(['1 piece', 1]);
    expect(at('pour').text).toBe('–');
  });

  it('does not call ready what is still drying or held', () => {
    const drying = floorPiece(1, ['shell'], { next: [nextStep({ readyAt: '2027-03-01T10:01:00.000Z' })] });
    const held = floorPiece(2, ['shell'], {
      next: [nextStep({ stepId: 'x', carrierId: 't-2', held: true })],
    });
    const shell = railCounts([drying, held], now).find(({ room }) => room === 'shell')!;
    expect([shell.text, shell.ready]).toEqual(['2 trees', 0]);
  });

  it('stands over every page with what is late before what is ready', async () => {
    const http = bed();
    const fixture = await show(Rail, {});
    http.expectOne('/api/rail').flush({
      change: 1,
      now,
      rooms: [
        { room: 'wax', text: '3 casts', ready: 2, late: 0 },
        { room: 'shell', text: '5 trees', ready: 1, late: 2 },
      ],
    });
    await fixture.whenStable();
    const links = [...page(fixture).querySelectorAll('a')].map((link) => link.textContent!.replace(/\s+/g, ' ').trim());
    expect(links[1]).toBe('Wax 3 casts · 2 ready');
    expect(links[3]).toBe('Shell 5 trees · 2 late');
    expect(links[0]).toBe('Mould');
  });
});

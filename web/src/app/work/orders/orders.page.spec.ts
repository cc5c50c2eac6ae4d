import type { OrderPiece, OrdersAnswer } from '@kalvet/core';
import { planStand } from '../../testing/pieces';
import { bed, page, press, show } from '../../testing/screen';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { OrdersPage } from './orders.page';

const piece = (n: number, rest: Partial<OrderPiece>): OrderPiece => ({
  pieceId: `p-${n}`,
  workId: 'w-1',
  label: `Otter ${n}/8`,
  artist: 'Wil Pardoe',
  room: 'wax',
  state: 'in work',
  dueDate: '2027-04-01',
  plannedFinish: '2027-03-20T10:00:00.000Z',
  deliveredAt: null,
  late: false,
  lateDays: 0,
  series: 'edition',
  number: n,
  behind: 'wax',
  sections: [{ room: 'wax', recast: false }],
  version: 3,
  ...rest,
});

describe('the orders', () => {
  it('warns where a piece is due after what was promised, and brings it forward', async () => {
    const http = bed();
    const fixture = await show(OrdersPage, {});
    const answer: OrdersAnswer = {
      change: 1,
      now: '2027-03-01T10:00:00.000Z',
      today: '2027-03-01',
      plan: planStand(),
      clients: [{ id: 'c-1', name: 'Saltgate Gallery', contact: '', version: 1, orders: 1 }],
      orders: [
        {
          id: 'o-1',
          number: 2,
          clientId: 'c-1',
          client: 'Saltgate Gallery',
          title: 'Summer hanging',
          place: '',
          dueDate: '2027-04-01',
          partDelivery: true,
          note: '',
          version: 1,
          readyAt: '2027-03-20T10:00:00.000Z',
          likely: { evenAt: '2027-03-22T10:00:00.000Z', ninetyAt: '2027-04-02T10:00:00.000Z' },
          lateDays: 0,
          pieces: [
            piece(1, {}),
            piece(2, { dueDate: '2027-04-12' }),
            piece(3, { dueDate: '2027-04-20', state: 'delivered', deliveredAt: '2027-02-20T10:00:00.000Z' }),
          ],
        },
      ],
      free: [],
    };
    http.expectOne('/api/orders').flush(answer);
    await fixture.whenStable();
    expect(page(fixture).querySelector('.order')!.textContent).toContain('1 piece is due after what was promised');
    await TestBed.inject(Router).navigate([], { queryParams: { order: 'o-1' } });
    await fixture.whenStable();
    const rows = [...page(fixture).querySelectorAll('tbody tr')].map((row) => row.textContent!);
    expect(rows.map((row) => row.includes('after what was promised'))).toEqual([false, true, false]);
    await press(fixture, '[data-test=bring-forward]');
    const sent = http.expectOne('/api/pieces/p-2');
    expect([sent.request.method, sent.request.body]).toEqual(['PATCH', { version: 3, dueDate: '2027-04-01' }]);
  });
});

import type { OrdersAnswer } from '@kalvet/core';
import { planStand } from '../../testing/pieces';
import { bed, page, press, show, type } from '../../testing/screen';
import { OrderForm } from './order-form.component';

const orders = (rest: Partial<OrdersAnswer> = {}): OrdersAnswer => ({
  change: 1,
  now: '2027-03-01T10:00:00.000Z',
  today: '2027-03-01',
  plan: planStand(),
  clients: [],
  orders: [],
  free: [
    {
      pieceId: 'p-1',
      label: 'Otter 1/8',
      artist: 'Wil Pardoe',
      room: 'wax',
      plannedFinish: '2027-03-20T10:00:00.000Z',
    },
    { pieceId: 'p-2', label: 'Otter 2/8', artist: 'Wil Pardoe', room: null, plannedFinish: null },
  ],
  ...rest,
});

describe('the order form', () => {
  it('enters a new client first, then the order with the same client', async () => {
    const http = bed();
    const fixture = await show(OrderForm, { orders: orders() });
    const save = () => page(fixture).querySelector<HTMLButtonElement>('[data-test=save-order]')!;
    expect(save().disabled).toBeTrue();
    await type(fixture, '#order-client', 'Saltgate Gallery');
    await type(fixture, '#order-title', 'Summer hanging');
    expect(save().disabled).toBeFalse();
    await press(fixture, '[data-test=save-order]');
    const client = http.expectOne('/api/clients');
    expect(client.request.body).toEqual(jasmine.objectContaining({ version: 0, name: 'Saltgate Gallery' }));
    client.flush({ change: 2, id: client.request.body.id });
    const order = http.expectOne('/api/orders');
    expect(order.request.body).toEqual(
      jasmine.objectContaining({
        version: 0,
        clientId: client.request.body.id,
        title: 'Summer hanging',
        dueDate: null,
        partDelivery: true,
        pieceIds: [],
      }),
    );
  });

  it('shows where each free piece stands, when it is out and whose it is, and takes what is ticked', async () => {
    const http = bed();
    const fixture = await show(OrderForm, { orders: orders() });
    const rows = [...page(fixture).querySelectorAll('kv-piece-picker li')].map((row) =>
      row.textContent!.replace(/\s+/g, ' ').trim(),
    );
    expect(rows[0]).toMatch(/^Otter 1\/8.?Wil Pardoe.?wax.?out Sat 20 Mar/);
    expect(rows[1]).toMatch(/^Otter 2\/8.?Wil Pardoe.?not begun.?no date$/);
    await type(fixture, '#order-client', 'Saltgate Gallery');
    await type(fixture, '#order-title', 'Summer hanging');
    page(fixture).querySelectorAll<HTMLElement>('kv-piece-picker .kv-tick')[1]!.click();
    await press(fixture, '[data-test=save-order]');
    const client = http.expectOne('/api/clients');
    client.flush({ change: 2, id: client.request.body.id });
    expect(http.expectOne('/api/orders').request.body.pieceIds).toEqual(['p-2']);
  });

  it('takes a client that is there by the name, however it is written, and calls the order by its works', async () => {
    const http = bed();
    const fixture = await show(OrderForm, {
      orders: orders({ clients: [{ id: 'c-7', name: 'Saltgate Gallery', contact: '', version: 1, orders: 2 }] }),
    });
    await type(fixture, '#order-client', 'saltgate gallery ');
    expect(page(fixture).textContent).not.toContain('a new client');
    const [first, second] = page(fixture).querySelectorAll<HTMLElement>('kv-piece-picker .kv-tick');
    first!.click();
    second!.click();
    await fixture.whenStable();
    await press(fixture, '[data-test=save-order]');
    http.expectNone('/api/clients');
    expect(http.expectOne('/api/orders').request.body).toEqual(
      jasmine.objectContaining({ clientId: 'c-7', title: 'Otter', pieceIds: ['p-1', 'p-2'] }),
    );
  });

  it('keeps what was typed where the client is there already, and says so at the field', async () => {
    const http = bed();
    const fixture = await show(OrderForm, { orders: orders() });
    await type(fixture, '#order-client', 'Saltgate Gallery');
    await type(fixture, '#order-title', 'Summer hanging');
    await press(fixture, '[data-test=save-order]');
    http
      .expectOne('/api/clients')
      .flush(
        { error: { code: 'invalid', message: 'no', fields: { name: 'a client of this name is there already' } } },
        { status: 400, statusText: 'Bad Request' },
      );
    await fixture.whenStable();
    expect(page(fixture).textContent).toContain('a client of this name is there already');
    expect(page(fixture).querySelector<HTMLInputElement>('#order-title')!.value).toBe('Summer hanging');
    http.expectNone('/api/orders');
  });
});

import type { Instrument, InstrumentsAnswer } from '@kalvet/core';
import { addMinutes } from '@kalvet/core';
import { connectAsync } from 'mqtt';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';
import { openBroker } from './broker.ts';
import { takeIn } from './instrument.service.ts';

describe('instruments', () => {
  let shop: TestShop;
  const pyrometer = (rest: Partial<Instrument> = {}): Instrument => ({
    id: newId(),
    version: 0,
    code: 'pyro-1',
    name: 'Dip pyrometer',
    kind: 'immersion',
    where: 'furnace',
    ofId: null,
    plusMinusK: 3,
    emissivity: null,
    calibratedOn: '2026-10-01',
    state: 'in use',
    ...rest,
  });
  beforeEach(async () => {
    shop = await TestShop.open();
  });

  const last = async () => (await shop.get<InstrumentsAnswer>('/api/instruments')).instruments[0]?.last ?? null;
  const wrongOf = async (code: string, payload: string) => {
    const taken = await takeIn(shop.store, code, payload, shop.now);
    return 'wrong' in taken ? JSON.stringify(taken.wrong) : '';
  };

  it('speak over MQTT: what is understood is there for whoever looks, what is not leaves no trace', async () => {
    await shop.must(shop.send('post', '/api/instruments', pyrometer()));
    const broker = await openBroker(shop.store, { host: '127.0.0.1', port: 0 }, () => shop.now);
    const client = await connectAsync(broker.url);
    try {
      await client.publishAsync('kalvet/instruments/pyro-1', '{"value":1163.4,"unit":"°C"}', { qos: 1 });
      for (let i = 0; i < 50 && (await last()) === null; i++) await new Promise((resolve) => setTimeout(resolve, 40));
      expect((await last())!.value).toBe(1163.4);
      // Nobody listens in.
      await expectAsync(client.subscribeAsync('kalvet/instruments/#')).toBeRejected();
    } finally {
      await client.endAsync(true);
      await broker.close();
    }
  });

  it('are understood in their units, and a late message does not take the place of a newer one', async () => {
    await shop.must(shop.send('post', '/api/instruments', pyrometer()));
    await takeIn(shop.store, 'pyro-1', JSON.stringify({ value: 2100, unit: 'F', at: shop.now }), shop.now);
    await takeIn(
      shop.store,
      'pyro-1',
      JSON.stringify({ value: 900, unit: 'C', at: addMinutes(shop.now, -0.5) }),
      shop.now,
    );
    expect((await last())!.value).toBeCloseTo(1148.9, 1);
  });

  it('say nothing where they are unknown, off, or send what nobody can read', async () => {
    await shop.must(shop.send('post', '/api/instruments', pyrometer({ state: 'off' })));
    expect(await wrongOf('pyro-9', '{}')).toContain('no instrument');
    expect(await wrongOf('pyro-1', '{"value":1,"unit":"C"}')).toContain('is off');
    await shop.must(shop.send('post', '/api/instruments', pyrometer({ code: 'pyro-2' })));
    expect(await wrongOf('pyro-2', 'ninety')).toContain('no JSON');
    expect(await wrongOf('pyro-2', '{"unit":"C"}')).toContain('required');
    expect(await wrongOf('pyro-2', '{"value":9999,"unit":"C"}')).toContain('cannot be');
  });

  it('have a code of their own that can stand in an address, and a place unless they count', async () => {
    const refused = async (rest: Partial<Instrument>) => {
      const { status, body } = await shop.send('post', '/api/instruments', pyrometer(rest));
      return [status, Object.keys((body as { error: { fields: object } }).error.fields)];
    };
    expect(await refused({ code: 'Pyro 1/#' })).toEqual([400, ['code']]);
    expect(await refused({ where: null })).toEqual([400, ['where']]);
    await shop.must(shop.send('post', '/api/instruments', pyrometer()));
    expect(await refused({})).toEqual([400, ['code']]);
    expect(await refused({ code: 'meter-1', kind: 'meter' })).toEqual([400, ['where']]);
  });
});

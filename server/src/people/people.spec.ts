import { randomUUID } from 'node:crypto';
import type { ShopAnswer } from '@kalvet/core';
import { newId } from '../write/new-id.ts';
import { TestShop } from '../testing/shop.ts';

describe('people', () => {
  it('are added by anybody while nobody is there, renamed by version, and taken off the list without losing what they did', async () => {
    const shop = await TestShop.open();
    const oskar = await shop.addPerson('Oskar Venn', 'OV', false);
    const change = (body: object) => shop.send('patch', `/api/people/${oskar}`, body);
    expect((await change({ version: 1, name: 'Oskar Venn-Holt' })).status).toBe(200);
    const stale = await change({ version: 1, mayOverride: true });
    expect([stale.status, stale.body.error.current.name]).toEqual([409, 'Oskar Venn-Holt']);
    await shop.must(change({ version: 2, active: false }));
    // Somebody who left can record nothing more.
    shop.person = oskar;
    const late = await shop.send('post', '/api/works', {});
    expect(late.status).toBe(400);
    const { people } = await shop.get<{ people: { name: string; active: boolean }[] }>('/api/shop');
    expect(people.map(({ name, active }) => [name, active])).toEqual([
      ['Ines Marlow', true],
      ['Oskar Venn-Holt', false],
    ]);
  });
});

describe('who may decide exceptions', () => {
  it('is entered by somebody who may, but for the very first', async () => {
    const shop = await TestShop.open();
    const plain = await shop.addPerson('Oskar Venn', 'OV', false);
    const add = (mayOverride: boolean) => {
      const name = mayOverride ? 'Tomas Quill' : 'Wilma Tarn';
      const body = { id: newId(), name, shortName: mayOverride ? 'TQ' : 'WT', mayOverride };
      return shop.send('post', '/api/people', body, randomUUID(), plain);
    };
    expect((await add(true)).status).toBe(409);
    expect((await add(false)).status).toBe(201);
    const change = { version: 1, mayOverride: true };
    expect((await shop.send('patch', `/api/people/${plain}`, change, randomUUID(), plain)).status).toBe(409);
    expect((await shop.send('patch', `/api/people/${plain}`, change)).status).toBe(200);
  });

  it('changes only the units of the person they are for, and the records stay as they are', async () => {
    const shop = await TestShop.open();
    const units = { mass: 'lb', temperature: '°F', length: 'inch', volume: 'US gal', area: 'ft²' };
    await shop.must(shop.send('patch', `/api/people/${shop.person}`, { version: 1, units }));
    const { people } = await shop.get<ShopAnswer>('/api/shop');
    expect(people.find(({ id }) => id === shop.person)!.units as object).toEqual(units);
    const wrong = { version: 2, units: { ...units, mass: 'stone' } };
    const { status, body } = await shop.send('patch', `/api/people/${shop.person}`, wrong);
    expect([status, Object.keys(body.error.fields)]).toEqual([400, ['units.mass']]);
  });
});

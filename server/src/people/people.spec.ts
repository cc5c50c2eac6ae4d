import { randomUUID } from 'node:crypto';
import type { ShopAnswer } from '@kalvet/core';
import { newId } from '../write/new-id.ts';
import { TestShop } from '../testing/shop.ts';

describe('people', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  const change = (id: string, body: object, by = shop.person) =>
    shop.send('patch', `/api/people/${id}`, body, randomUUID(), by);

  it('are renamed by version, and taken off the list without losing what they did; their sessions end', async () => {
    const oskar = await shop.addPerson('Oskar Venn', 'OV', { roles: ['hand'] });
    expect((await change(oskar, { version: 1, name: 'Oskar Venn-Holt' })).status).toBe(200);
    const stale = await change(oskar, { version: 1, roles: ['lead'] });
    expect([stale.status, stale.body.error.current.name]).toEqual([409, 'Oskar Venn-Holt']);
    await shop.must(change(oskar, { version: 2, active: false }));
    const late = await shop.send('post', '/api/works', {}, randomUUID(), oskar);
    expect([late.status, late.body.error.code]).toEqual([401, 'sign in']);
    const { people } = await shop.get<{ people: { name: string; active: boolean }[] }>('/api/shop');
    expect(people.map(({ name, active }) => [name, active])).toEqual([
      ['Ines Marlow', true],
      ['Oskar Venn-Holt', false],
    ]);
  });

  it('are entered by a manager alone, and nobody gives rights to themselves', async () => {
    const oskar = await shop.addPerson('Oskar Venn', 'OV', { roles: ['hand'] });
    const body = { id: newId(), name: 'Tomas Quill', shortName: 'TQ', roles: ['pour lead'], rooms: [], gates: [] };
    const refused = await shop.send('post', '/api/people', body, randomUUID(), oskar);
    expect([refused.status, refused.body.error.message]).toEqual([
      403,
      'Oskar Venn may not do that; a production manager may.',
    ]);
    await shop.must(shop.send('post', '/api/people', body));
    expect((await change(oskar, { version: 1, roles: ['manager'] }, oskar)).status).toBe(403);
    expect((await change(shop.person, { version: 1, gates: ['leak test'] })).body.error.rule).toBe('own rights');
    await shop.must(change(oskar, { version: 1, roles: ['hand', 'pour lead'] }));
    const { lines } = await shop.get<{ lines: { what: string; text: string }[] }>('/api/audit?what=rights');
    expect(lines[0]!.text).toBe('Oskar Venn: hand → hand, pour lead');
  });

  it('have a last manager, whom two who take each other off at once leave', async () => {
    const other = await shop.addPerson('Tomas Quill', 'TQ');
    const off = { version: 1, active: false };
    const both = await Promise.all([change(other, off), change(shop.person, off, other)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 403]);
    expect(both.find(({ status }) => status === 403)!.body.error.rule).toBe('last manager');
  });

  it('change only their own units, and the records stay as they are', async () => {
    const units = { mass: 'lb', temperature: '°F', length: 'inch', volume: 'US gal', area: 'ft²' };
    const oskar = await shop.addPerson('Oskar Venn', 'OV', { roles: ['hand'] });
    await shop.must(change(oskar, { version: 1, units }, oskar));
    const { people } = await shop.get<ShopAnswer>('/api/shop');
    expect(people.find(({ id }) => id === oskar)!.units as object).toEqual(units);
    const wrong = await change(oskar, { version: 2, units: { ...units, mass: 'stone' } }, oskar);
    expect([wrong.status, Object.keys(wrong.body.error.fields)]).toEqual([400, ['units.mass']]);
    expect((await change(oskar, { version: 2, units })).status).toBe(400);
  });
});

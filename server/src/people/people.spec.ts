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

import type { Id, LanesAnswer, MoveSteps, PlanAnswer, Reach } from '@kalvet/core';
import { addMinutes, inWords } from '@kalvet/core';
import request from 'supertest';
import { compareProjections } from '../shop/project.ts';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';

describe('what is planned on hands and fires', () => {
  let shop: TestShop;
  let pieceIds: Id[];
  beforeEach(async () => {
    shop = await TestShop.open();
    ({ pieceIds } = await shop.setUp({ editionSize: 3, dueDate: '2027-05-01' }));
    await shop.plan();
  });
  const lanes = (from = '2027-03-01', to = '2027-03-28') =>
    shop.get<LanesAnswer>(`/api/plan/lanes?from=${from}&to=${to}`);
  const on = async (name: string) => (await lanes()).lanes.find((lane) => lane.name === name)!;
  const reach = (ids: readonly Id[]) => shop.get<Reach>(`/api/plan/reach?steps=${ids.join(',')}`);
  const move = (steps: MoveSteps['steps'], person = shop.person) =>
    shop.send('post', '/api/plan/moves', { steps }, undefined, person);

  it('is shown by the room, the kiln and the furnace, loads as one with how full they are', async () => {
    const [mould] = (await on('Mould makers')).bars;
    expect([mould!.what, mould!.spells.length, mould!.full]).toEqual(['Make mould', 1, null]);
    // Monday 08:00.
    expect(mould!.spells[0]![0]).toBe('2027-03-01T08:00:00.000Z');
    const heats = (await on('Crucible')).bars;
    const trees = heats.flatMap(({ steps }) => steps);
    expect(trees.length).toBe(3);
    for (const { full, isSet } of heats) expect([full! > 0 && full! <= 1, isSet]).toEqual([true, false]);
    // Nobody's chasing is laid down here: one spell each, in the hours of the room.
    expect((await on('Shell room')).bars.every(({ spells }) => spells.length === 1)).toBeTrue();
    const none = await lanes('2028-01-01', '2028-01-07');
    expect(none.lanes.flatMap(({ bars }) => bars)).toEqual([]);
  });

  it('is shown for six weeks at most, from an earlier to a later day', async () => {
    const ask = (path: string) => request(shop.app).get(path).set(shop.headers());
    const asked = (query: string) => ask(`/api/plan/lanes?${query}`);
    expect((await asked('from=2027-03-01&to=2027-04-12')).status).toBe(400);
    expect((await asked('from=2027-03-02&to=2027-03-01')).status).toBe(400);
    expect((await asked('from=2027-03-01')).body.error.fields).toEqual({ to: jasmine.anything() });
    expect((await ask('/api/plan/reach?steps=a,b')).status).toBe(400);
    expect((await ask(`/api/plan/reach?steps=${newId()}`)).status).toBe(404);
  });

  it('is moved with all trees of a heat together, back again by what each had, and the next plan keeps it', async () => {
    const [heat] = (await on('Crucible')).bars;
    const { notBefore } = await reach(heat!.steps.map(({ id }) => id));
    expect(inWords(notBefore!.because)).toContain('Leak test');
    // The next Thursday at ten.
    const at = addMinutes(heat!.spells[0]![0].slice(0, 11) + '10:00:00.000Z', 7 * 1440);
    await shop.must(move(heat!.steps.map(({ id, version }) => ({ id, version, kind: 'at' as const, at }))));
    const { stored, anew } = await compareProjections(shop.store);
    expect(stored).toEqual(anew);
    await shop.plan();
    const moved = (await on('Crucible')).bars.find(({ steps }) => steps.some(({ id }) => id === heat!.steps[0]!.id))!;
    expect(moved.spells[0]![0]).toBe(at);
    expect(moved.steps.find(({ id }) => id === heat!.steps[0]!.id)).toEqual(
      jasmine.objectContaining({ pinKind: 'at', pinAt: at }),
    );
    const back = moved.steps.map(({ id, version }) => ({ id, version, kind: null, at: null }));
    await shop.must(move(back));
    const after = (await on('Crucible')).bars.flatMap(({ steps }) => steps);
    expect(after.map(({ pinKind }) => pinKind)).toEqual([null, null, null]);
  });

  it('is moved by nobody who may not, from no older version, and never into the past', async () => {
    const [mould] = (await on('Mould makers')).bars;
    const { id, version } = mould!.steps[0]!;
    const at = '2027-03-03T08:00:00.000Z';
    const hand = await shop.addPerson('Mara Teale', 'MT', { roles: ['hand'] });
    expect((await move([{ id, version, kind: 'at', at }], hand)).status).toBe(403);
    const past = await move([{ id, version, kind: 'at', at: '2027-02-01T08:00:00.000Z' }]);
    expect([past.status, past.body.error.fields.at]).toEqual([400, 'lies behind us']);
    await shop.must(move([{ id, version, kind: 'at', at }]));
    expect((await move([{ id, version, kind: null, at: null }])).status).toBe(409);
    expect((await move([{ id, version: 2, kind: 'at', at: null }])).status).toBe(400);
  });

  it('says how much work there is for each room by week, on the plan’s page', async () => {
    const { hands, loads } = await shop.get<PlanAnswer>('/api/plan');
    const moulds = hands.find(({ name }) => name === 'Mould makers')!;
    // One mould maker, five days of eight hours.
    expect([moulds.count, moulds.weeks[0]!.monday, moulds.weeks[0]!.there]).toEqual([1, '2027-03-01', 2400]);
    expect(moulds.weeks[0]!.planned).toBeGreaterThan(0);
    expect(pieceIds.length).toBe(3);
    for (const { kind, full, holds } of loads) expect([full <= 1, holds]).toEqual([true, kind === 'heat' ? 120 : 12]);
  });
});

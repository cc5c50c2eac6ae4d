import type { CoatsAnswer, Id, ImportedClimate, InstrumentsAnswer, Refusal, StepView } from '@kalvet/core';
import { addMinutes, inWords, minutesBetween } from '@kalvet/core';
import { takeIn } from '../instruments/instrument.service.ts';
import { compareProjections } from '../shop/project.ts';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';
import { AirClock } from './air-clock.ts';
import { climateSensor } from './climate-sensor.ts';

describe('the air that shells dry in', () => {
  let shop: TestShop;
  let pieceId: Id;
  let room: Id;

  beforeEach(async () => {
    shop = await TestShop.open();
    const { pieceIds } = await shop.setUp();
    pieceId = pieceIds[0]!;
    await shop.makeMould(pieceId);
    await shop.carry(pieceId, 'coat');
    shop.later(121);
    room = await place('Shell room');
  });

  const place = async (name: string, rest: object = {}): Promise<Id> => {
    const id = newId();
    const body = { id, version: 0, name, kind: 'room', airflow: 1, hooks: 20, state: 'in use', ...rest };
    await shop.must(shop.send('post', '/api/shell/places', body));
    return id;
  };
  const read = (celsius: number, humidityPercent: number, at = shop.now, placeId = room) =>
    shop.send('post', '/api/shell/climate', { placeId, at, celsius, humidityPercent });
  const dip = async (): Promise<StepView> => {
    const step = await shop.open(pieceId, 'coat');
    await shop.must(shop.record(step, 'done', { slurry: 'face', stucco: 'fine' }));
    return step;
  };
  const row = async () => (await shop.get<CoatsAnswer>('/api/coats')).rows[0]!;
  /** Hours from the dip until the coat is dry, as the page has it. */
  const dryHours = async () => {
    const { drying } = await row();
    return drying?.dryAt ? minutesBetween(drying.dryAt, drying.dippedAt) / -60 : Infinity;
  };
  const refusals = (body: unknown) => (body as { error: { refusals?: Refusal[] } }).error.refusals ?? [];
  const fields = (body: unknown) => Object.keys((body as { error: { fields: object } }).error.fields);

  it('moves the next dip: three hours at 22 °C and 50 % are six and a half in a damp room, and nothing dries at 100 %', async () => {
    await shop.must(read(22, 50));
    const first = await dip();
    // A face coat takes three hours of the shop's reference air.
    expect(await dryHours()).toBeCloseTo(3, 1);
    await shop.must(read(20.2, 75));
    // 2.92 K instead of 6.51: 3 h × 6.51 ÷ 2.92 = 6.69 h.
    expect(await dryHours()).toBeCloseTo(6.69, 1);
    const { readyAt } = await row();
    expect(minutesBetween((await row()).drying!.dippedAt, readyAt!)).toBeCloseTo(6.69 * 60, -1);
    // After four hours it is refused, with the sum.
    shop.later(4 * 60);
    const refused = await shop.record(await shop.open(pieceId, 'coat'), 'done', { slurry: 'face', stucco: 'fine' });
    expect(refusals(refused.body).map(({ rule }) => rule)).toEqual(['min wait']);
    expect(inWords(refusals(refused.body)[0]!.message)).toContain('2.9 K');
    await shop.must(read(20, 100));
    expect((await row()).drying!.dryAt).toBeNull();
    expect((await shop.get<CoatsAnswer>('/api/coats')).places[0]!.alarms.map(({ code }) => code)).toEqual([
      'nothing dries',
    ]);
    expect(first.sequence).toBe(1);
    const { stored, anew } = await compareProjections(shop.store);
    expect([...anew].filter(([id, data]) => stored.get(id) !== data)).toEqual([]);
  });

  it('is beaten by who looks: dry at once, or wet whatever the sum says', async () => {
    await shop.must(read(22, 50));
    const step = await dip();
    const look = (dry: boolean, rest: object = {}) =>
      shop.send('post', '/api/shell/looks', {
        ...{ id: newId(), stepId: step.id, at: shop.now, means: 'conductivity', dry, share: null, note: '' },
        ...rest,
      });
    expect(fields((await look(true, { at: addMinutes(shop.now, -60) })).body)).toEqual(['at']);
    shop.later(200);
    expect((await look(false)).status).toBe(200);
    expect(await dryHours()).toBeGreaterThan(200 / 60);
    shop.later(10);
    const { body } = await look(true);
    expect(await dryHours()).toBeCloseTo(3.5, 2);
    // The readings are kept with what the sum said, and taken back like any record.
    await shop.must(shop.send('post', `/api/changes/${body.change}/take-back`, { reason: 'wrong tree' }));
    expect(await dryHours()).toBeGreaterThan(3.5);
  });

  it('goes on in the air of another place from when a tree is hung there', async () => {
    await shop.must(read(20.2, 75));
    const cabinet = await place('Cabinet', { kind: 'cabinet', airflow: 0.5 });
    await shop.must(read(22, 50, shop.now, cabinet));
    await dip();
    expect(await dryHours()).toBeCloseTo(6.69, 1);
    shop.later(60);
    const { treeId } = await row();
    const hang = (rest: object = {}) =>
      shop.send('post', '/api/shell/hang', {
        treeIds: [treeId],
        placeId: cabinet,
        hook: 'hook 2',
        at: shop.now,
        ...rest,
      });
    expect(fields((await hang({ placeId: newId() })).body)).toEqual(['placeId']);
    await shop.must(hang());
    // An hour of 6.69, then the rest in an hour and a half of the cabinet's draught: 1 + 0.851 × 1.5.
    expect(await dryHours()).toBeCloseTo(2.28, 1);
    expect((await row()).hangs).toEqual({ placeId: cabinet, hook: 'hook 2' });
  });

  it('comes from a logger’s file once, however often it is read in, and says what was left out', async () => {
    const line = (minutes: number, t: string, rh: string) => `${addMinutes(shop.now, minutes)};${t};${rh}`;
    const text = [
      'time;°C;%RH',
      line(-60, '21,5', '55'),
      line(-45, '21,9', '54'),
      line(-30, '22', '0'),
      line(-20, '22', '52'),
    ].join('\n');
    const send = (file: string) =>
      shop.send('post', '/api/shell/climate/file', { placeId: room, name: 'logger.csv', text: file });
    const { body } = (await send(text)) as { body: ImportedClimate };
    expect([body.added, body.known, body.left.map(({ line: at }) => at)]).toEqual([3, 0, [4]]);
    const again = (await send(text)) as { body: ImportedClimate };
    expect([again.body.added, again.body.known]).toEqual([0, 3]);
    expect(fields((await send(['time;°C;%RH', line(60, '21', '50')].join('\n'))).body)).toEqual(['text']);
    expect(fields((await send('a;b\n1;2')).body)).toEqual(['text']);
    expect(fields((await read(55, 21)).body)).toEqual(['celsius']);
    expect(fields((await read(22, 0)).body)).toEqual(['humidityPercent']);
    expect(fields((await read(22, 50, addMinutes(shop.now, 30))).body)).toEqual(['at']);
  });

  it('comes from a sensor without anybody’s hand; the drying’s clock tells what it moves, once', async () => {
    await shop.must(
      shop.send('post', '/api/instruments', {
        ...{ id: newId(), version: 0, code: 'climate-1', name: 'Climate', kind: 'climate', where: null, ofId: room },
        ...{ plusMinusK: 0.3, emissivity: null, calibratedOn: null, state: 'in use' },
      }),
    );
    await shop.must(read(22, 50, addMinutes(shop.now, -120)));
    await dip();
    const clock = new AirClock(shop.store, () => shop.now);
    await clock.look();
    const say = (value: number, humidity?: number) =>
      takeIn(shop.store, 'climate-1', JSON.stringify({ value, unit: '°C', humidity }), shop.now, {
        climate: climateSensor,
      });
    expect('wrong' in (await say(21))).toBeTrue();
    shop.later(15);
    await say(20, 78);
    expect(await clock.look()).toBe(1);
    expect(await dryHours()).toBeGreaterThan(5);
    expect(await clock.look()).toBe(0);
    const { instruments } = await shop.get<InstrumentsAnswer>('/api/instruments');
    expect(instruments[0]!.last!.humidityPercent).toBe(78);
  });

  it('leaves the fixed hours to a shop that reads no climate', async () => {
    await dip();
    expect((await row()).drying).toBeNull();
    expect(minutesBetween((await row()).coats[0]!.at!, (await row()).readyAt!)).toBe(180);
  });
});

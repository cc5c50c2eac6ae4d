import { inWords } from '@kalvet/core';
import { Browser } from './browser.ts';
import { Kalvet } from './kalvet.ts';

const newId = () => `01a00000-0000-7000-8000-${Math.random().toString(16).slice(2, 14).padEnd(12, '0')}`;

const work = (code: string, title: string, rest: object = {}) => ({
  id: newId(),
  code,
  title,
  artist: 'Wilma Tarn',
  editionSize: 2,
  artistProofs: 0,
  alloyId: 'C87300',
  method: 'shell',
  approval: 'none',
  finish: '',
  finishing: 'patina',
  glyph: 'otter',
  dueDate: '2026-01-05',
  sections: [
    {
      name: 'whole',
      wallMm: 5,
      metalHeightMm: 200,
      expectedWaxKg: 0.75,
      areaCm2: 1600,
      seamM: null,
      deep: false,
    },
  ],
  moulds: [{ name: 'whole', sections: [1], pullsBefore: 0 }],
  ...rest,
});

describe('two people at once', () => {
  let kalvet: Kalvet;
  let one: Browser;
  let other: Browser;
  let pieceId = '';

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_two_people');
    const ines = await kalvet.setUpShop('Ines Marlow', 'IM');
    const oskar = { id: newId(), name: 'Oskar Venn', shortName: 'OV', roles: ['hand'], rooms: [], gates: [] };
    await kalvet.post('/people', oskar, ines);
    const { body } = await kalvet.post('/works', work('OTT', 'Otter with Reed'), ines);
    pieceId = (body as unknown as { pieceIds: string[] }).pieceIds[0]!;
    one = await Browser.open(kalvet.url);
    other = await Browser.open(kalvet.url);
    for (const [browser, person] of [
      [one, ines],
      [other, oskar.id],
    ] as const) {
      await browser.go(`/pieces/${pieceId}`);
      await browser.click(`[data-person="${person}"]`);
      await browser.says('Otter with Reed 1/2');
    }
  });
  afterAll(async () => {
    await one?.close();
    await other?.close();
    await kalvet?.stop();
  });

  const openMould = (browser: Browser) => browser.click('[data-test=record-next][aria-label^="Record Make mould"]');

  it('the second to record the same step is told so, keeps what was typed, and sees what is there now', async () => {
    await openMould(one);
    await openMould(other);
    await other.type('#note', 'three parts, keyed');
    await one.find('[data-test=record]');
    await one.takeOver();
    await one.click('[data-test=record]');
    await one.gone('kv-step-panel');
    await other.click('[data-test=record]');
    await other.says('Somebody else has changed this step');
    expect(await (await other.find('#note')).getAttribute('value')).toBe('three parts, keyed');
    await other.press('Look at what is there now');
    await other.says('Already recorded as done');
    const { history } = await kalvet.piece(pieceId);
    expect(history.filter(({ text }) => inWords(text).startsWith('Make mould')).length).toBe(1);
  });

  it('a change made elsewhere appears without reloading', async () => {
    await one.go('/floor');
    await one.says('2 not begun');
    const { piece } = await kalvet.piece(pieceId);
    const shop = await kalvet.get<{ people: { id: string; name: string }[] }>('/shop');
    const person = shop.people.find(({ name }) => name === 'Ines Marlow')!.id;
    const held = await kalvet.post(
      `/pieces/${pieceId}/hold`,
      { version: piece.version, reason: 'client undecided', until: null },
      person,
    );
    expect(held.status).toBe(200);
    await kalvet.post('/works', work('MAL', 'Caulking Mallet'), person);
    await one.says('Caulking Mallet');
  });
});

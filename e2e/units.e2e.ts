// A founder who thinks in pounds and inches, beside one who does not, in the same records.
import { Browser } from './browser.ts';
import { Kalvet, until } from './kalvet.ts';
import { Prepared, nextId } from './prepare.ts';

describe('units for everybody', () => {
  let kalvet: Kalvet;
  let shop: Prepared;
  let browser: Browser;

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_units');
    shop = await Prepared.open(kalvet, 'Ines Marlow', 'IM');
    await kalvet.post(
      '/people',
      { id: nextId(), name: 'Oskar Venn', shortName: 'OV', roles: ['hand'], rooms: [], gates: [] },
      shop.person,
    );
    browser = await Browser.open(kalvet.url);
    await browser.go('/floor');
    await browser.click(`[data-person="${shop.person}"]`);
    await browser.gone('kv-sign-in');
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });
  const choose = async (...units: string[]) => {
    await browser.click('[data-test=units]');
    for (const unit of units) await browser.press(unit, '//kv-units');
    await browser.click('[data-test=save-units]');
    await browser.gone('kv-units .p-drawer');
  };

  it('a raw work is set up in inches and pounds, and kept in millimetres and kilograms as it was typed', async () => {
    await choose('lb', 'inch', '°F');
    await browser.go('/set-up');
    await browser.says('Wall, in');
    await browser.type('#title', 'Tide Relief');
    await browser.type('#artist', 'Wilma Tarn');
    await browser.type('#edition', '1');
    await browser.click('[data-test=more]');
    await browser.pick('approval', 'no wax');
    await browser.pick('finishing', 'raw');
    await browser.type('#wall-0', '3/16 in');
    await browser.type('#height-0', '8');
    await browser.type('#expected-wax-0', '1 lb 10 oz');
    await browser.click('[data-test=set-up]');
    await browser.says('What comes first');
    const { works } = await kalvet.floor();
    const { sections } = await kalvet.get<{ sections: { wallMm: number; expectedWaxKg: number; typed: object }[] }>(
      `/works/${works[0]!.id}`,
    );
    // 3/16 × 25.4 mm; 26 oz × 0.45359237 ÷ 16 kg.
    expect([sections[0]!.wallMm, sections[0]!.expectedWaxKg]).toEqual([4.7625, 0.7371]);
    expect(sections[0]!.typed).toEqual({ wallMm: '3/16 in', metalHeightMm: '8', expectedWaxKg: '1 lb 10 oz' });
    // Raw: the artist finishes it; there is neither patina nor wax on its way.
    const { pieceSteps } = await kalvet.piece(works[0]!.pieces[0]?.id ?? (await pieceOf(works[0]!.id)));
    expect(pieceSteps.map(({ kind }) => kind)).toEqual(['chase-metal', 'inspect-raw', 'deliver']);
  });

  const pieceOf = async (workId: string) =>
    (await kalvet.get<{ pieces: { id: string }[] }>(`/works/${workId}`)).pieces[0]!.id;

  it('a wax is weighed in pounds and ounces, judged in pounds, and read by the other in kilograms', async () => {
    const { works } = await kalvet.floor();
    const pieceId = await pieceOf(works[0]!.id);
    await shop.carry(pieceId, ({ name }) => name.startsWith('Chase and weigh'), 60);
    await browser.go(`/pieces/${pieceId}`);
    await browser.click('[data-test=record-next][aria-label^="Record Chase and weigh"]');
    await browser.type('#reading-waxKg', 'two pounds');
    await browser.click('[data-test=record]');
    await browser.says('cannot be read as a number');
    await browser.type('#reading-waxKg', '2 lb 4 oz');
    // 1.0206 kg against 0.7371: 38 % over, (1.0206 − 0.7371) × 8.54 = 2.4 kg of bronze, 5.3 lb.
    await browser.says('Wax 38 % over: +5.3 lb bronze');
    await browser.takeOver();
    await browser.click('[data-test=record]');
    await browser.gone('kv-step-panel');
    // 1.0206 × 8.54 = 8.7 kg of bronze, ±3 %.
    await browser.says('19.2 ± 0.6 lb');
    await choose('kg', '°C', 'mm');
    await browser.says('8.7 ± 0.3 kg');
    expect(await browser.text()).not.toContain('19.2');
  });

  it('the rail leads from any page into a room', async () => {
    await browser.go('/orders');
    await browser.click('kv-rail a[href^="/coats"]');
    await browser.says('is being dipped');
    await browser.click('kv-rail a[href*="room=wax"]');
    await until('the day sheet of the wax room', async () =>
      (await browser.driver.getCurrentUrl()).includes('/day?room=wax'),
    );
  });
});

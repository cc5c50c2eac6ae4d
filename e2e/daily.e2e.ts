import type { Calendar, DayAnswer, NextStep, PlanningAnswer, PourAnswer } from '@kalvet/core';
import { POUR_CHECKS, inWords } from '@kalvet/core';
import { Browser } from './browser.ts';
import { Kalvet, until } from './kalvet.ts';
import { Prepared } from './prepare.ts';

const hoursAgo = (hours: number) => new Date(Date.now() - hours * 3_600_000).toISOString();

describe('the daily loop', () => {
  let kalvet: Kalvet;
  let browser: Browser;
  let shop: Prepared;
  let first: { id: string; pieceIds: string[] };

  const day = () => kalvet.get<DayAnswer>('/day');

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_daily');
    shop = await Prepared.open(kalvet, 'Ines Marlow', 'IM');
    first = await shop.setUp('OTT', 'Otter with Reed', 6);
    browser = await Browser.open(kalvet.url);
    await kalvet.choose(browser, 'IM');
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  it('the Day sheet tells the wax room to pull a wax that nobody has begun, with its weight and wall', async () => {
    await shop.record((await makeMould(first.pieceIds[0]!)).stepId, hoursAgo(400));
    await kalvet.planned();
    const sheet = await day();
    const pull = sheet.lines.find(({ kind }) => kind === 'pull');
    expect(pull)
      .withContext(`lines of ${sheet.day}: ${sheet.lines.map(({ name }) => name).join(', ')}`)
      .toBeDefined();
    await browser.go('/day?room=wax');
    await browser.says('Pull');
    const text = (await browser.text()).replace(/\s+/g, ' ');
    // 0.75 kg is expected, and the wall is 5 mm.
    expect(text).toMatch(/Pull ?.*0\.750 kg.*5(\.0)? mm/);
    expect(text).toContain('Otter with Reed');
  });

  it('records together only what is the same: a face coat stays a face coat beside back-ups', async () => {
    const [one, two] = [first.pieceIds[0]!, first.pieceIds[1]!];
    const face = await shop.carry(one, ({ name }) => name.startsWith('Dip coat 1'), 200);
    const backup = await shop.carry(two, ({ name }) => name.startsWith('Dip coat 4'), 300);
    await browser.go('/coats');
    for (const { stepId } of [face, backup]) await browser.tick(`coat-${stepId}`);
    await browser.click('[data-test=together]');
    await browser.find('[data-test=group]');
    const groups = await Promise.all(
      (await browser.driver.findElements({ css: '[data-test=group]' })).map(async (each) =>
        (await each.getText()).replace(/\s+/g, ' '),
      ),
    );
    expect(groups.map((group) => /^(face|back-up)[^:]*: 1/.test(group))).toEqual([true, true]);
    await browser.type('#reading-roomC', '21,5');
    await browser.click('[data-test=record-many]');
    await until('both dipped', async () => {
      const open = (await day()).lines.map(({ stepId }) => stepId);
      return !open.includes(face.stepId) && !open.includes(backup.stepId);
    });
    const newest = async (pieceId: string) => inWords((await kalvet.piece(pieceId)).history[0]!.text);
    // The history shows every reading, the comma read as it was meant.
    expect(await newest(one)).toMatch(
      /Dip coat 1 of 6 · T-\d+ \(OTT 1\) \(slurry face, stucco fine, slurry by dipping, stucco by rain, room 21\.5 °C\)/,
    );
    expect(await newest(two)).toMatch(
      /Dip coat 4 of 6 · T-\d+ \(OTT 2\) \(slurry back-up, stucco medium, slurry by dipping, stucco by rain, room 21\.5 °C\)/,
    );
  });

  it('numbers: a comma, grams and a slip are understood, said at once, and asked about once', async () => {
    const piece = first.pieceIds[2]!;
    const weigh = await shop.carry(piece, ({ name }) => name.startsWith('Chase and weigh'), 100);
    await browser.go(`/pieces/${piece}?step=${weigh.stepId}`);
    for (const [typed, understood] of [
      ['0,76', '0.760 kg'],
      ['760 g', '0.760 kg'],
      ['1 lb 11 oz', '0.765 kg'],
    ] as const) {
      await browser.type('#reading-waxKg', typed);
      await until(`${typed} understood`, async () => (await browser.text()).includes(understood));
    }
    await browser.type('#reading-waxKg', '760');
    await browser.says('760 kg, but');
    await browser.click('[data-test=meant]');
    await browser.takeOver();
    await browser.click('[data-test=record]');
    await browser.gone('kv-step-panel');
    const { history } = await kalvet.piece(piece);
    expect(inWords(history.find(({ text }) => inWords(text).startsWith('Chase and weigh'))!.text)).toContain(
      '0.760 kg',
    );
  });

  it('a question is answered by its button, and is gone', async () => {
    const piece = first.pieceIds[3]!;
    const weigh = await shop.carry(piece, ({ name }) => name.startsWith('Chase and weigh'), 100);
    await shop.record(weigh.stepId, hoursAgo(0.2), { readings: { waxKg: 0.86, markPutIn: true } });
    await browser.go('/floor?decide=1');
    await browser.says('wax 15 % over');
    await browser.press('Leave it so');
    await until('the question gone', async () => !(await browser.text()).includes('wax 15 % over'));
    const { piece: now } = await kalvet.piece(piece);
    expect(now.decisions.map(({ text }) => inWords(text))).toEqual([]);
  });

  it('a pour day that is closed and opened again moves no date', async () => {
    await kalvet.planned();
    const dates = async () =>
      new Map(
        (await kalvet.floor()).works.flatMap(({ pieces }) =>
          pieces.map(({ id, plannedFinish }) => [id, plannedFinish?.slice(0, 10)] as const),
        ),
      );
    const before = await dates();
    const { calendars, resources } = await kalvet.get<PlanningAnswer>('/planning');
    const crucible = resources.find(({ kind }) => kind === 'crucible')!;
    const hours = calendars.find(({ id }) => id === crucible.calendarId)!;
    const { pourDays } = await kalvet.get<PourAnswer & { pourDays: string[] }>('/pour');
    const save = async (closed: readonly string[]) => {
      const { calendars: now } = await kalvet.get<PlanningAnswer>('/planning');
      const { version } = now.find(({ id }) => id === hours.id)!;
      await shop.must('/calendars', { ...hours, version, closed } satisfies Calendar);
      await kalvet.planned();
    };
    await save([...hours.closed, pourDays[0]!]);
    await save(hours.closed);
    expect([...(await dates())]).toEqual([...before]);
  });

  it('a heat has a page of its own, from the search and also when it is over', async () => {
    const piece = first.pieceIds[4]!;
    const pour = await shop.carry(piece, ({ kind }) => kind === 'pour', 400);
    const { carrierId } = pour;
    const id = crypto.randomUUID();
    const line = { what: 'ingot', alloyId: 'C87300', kg: 15, lot: 'MQ-1', dry: true };
    const heat = { id, alloyId: 'C87300', plannedFor: null, trees: [{ treeId: carrierId }], chargeLines: [line] };
    await shop.must('/heats', heat);
    const crew = [{ role: 'lead', personId: shop.person, deputyId: null }];
    const version = async () => (await kalvet.get<{ version: number }>(`/heats/${id}`)).version;
    await shop.must(`/heats/${id}/crew`, {
      version: await version(),
      crew,
      signs: 'spoken',
      checks: POUR_CHECKS,
      coverConfirmed: true,
    });
    const done = { startedAt: null, endedAt: hoursAgo(0.2), by: [shop.person], note: '' };
    const readings = { pouredKg: 9, vents: 'all' };
    await shop.must(`/heats/${id}/pour`, {
      ...done,
      version: await version(),
      treeId: carrierId,
      outcome: 'poured',
      readings,
    });
    await shop.must(`/heats/${id}/finish`, {
      version: await version(),
      endedAt: hoursAgo(0.1),
      by: [shop.person],
      pigKg: 5.7,
      note: '',
    });
    const { number } = await kalvet.get<{ number: number }>(`/heats/${id}`);
    await browser.go('/floor');
    await browser.click('kv-find input');
    await browser.driver.actions().sendKeys(`H-${number}`).perform();
    await browser.says(`H-${number}`);
    await browser.go(`/pieces/${piece}`);
    await browser.press(`H-${number}`);
    await until('the heat', async () => (await browser.driver.getCurrentUrl()).endsWith(`/heats/${id}`));
    await browser.says('9.0 kg');
    await browser.says('MQ-1');
  });

  async function makeMould(pieceId: string): Promise<NextStep> {
    const { piece } = await kalvet.piece(pieceId);
    return piece.next.find(({ kind }) => kind === 'make-mould')!;
  }
});

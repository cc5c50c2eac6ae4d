import { Key } from 'selenium-webdriver';
import { Browser } from './browser.ts';
import { Kalvet, until } from './kalvet.ts';

const id = (n: number) => `01a00000-0000-7000-8000-${String(n).padStart(12, '0')}`;
const section = (name: string) => ({
  name,
  wallMm: 5,
  metalHeightMm: 200,
  expectedWaxKg: 0.75,
  areaCm2: 1600,
  seamM: null,
  deep: false,
});

describe('the manager at the Floor', () => {
  let kalvet: Kalvet;
  let browser: Browser;
  let piece = '';
  let person = '';

  const record = async (stepId: string, readings: object, hoursAgo: number) => {
    const { step } = await kalvet.form(stepId);
    const endedAt = new Date(Date.now() - hoursAgo * 3_600_000).toISOString();
    const { status } = await kalvet.post(
      `/steps/${stepId}/record`,
      { version: step.version, outcome: 'done', startedAt: null, endedAt, by: [person], readings, note: '' },
      person,
    );
    expect(status).toBe(200);
  };

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_manager');
    person = await kalvet.setUpShop('Ines Marlow', 'IM');
    for (const [n, code, title] of [
      [2, 'OTT', 'Otter with Reed'],
      [3, 'HND', 'Sleeping Hound'],
    ] as const) {
      const { body } = await kalvet.post(
        '/works',
        {
          id: id(n),
          code,
          title,
          artist: 'A. Sculptor',
          editionSize: 3,
          artistProofs: 0,
          alloyId: 'C87300',
          method: 'shell',
          approval: 'none',
          finish: '',
          finishing: 'patina',
          glyph: 'otter',
          dueDate: '2030-01-01',
          sections: [section('Whole')],
          moulds: [{ name: 'whole', sections: [1], pullsBefore: 0 }],
        },
        person,
      );
      const [first] = (body as unknown as { pieceIds: string[] }).pieceIds;
      const next = async (kind: string) =>
        (await kalvet.piece(first!)).piece.next.find((step) => step.kind === kind)!.stepId;
      await record(await next('make-mould'), { lifePulls: 60 }, 60);
      const pull = await next('pull');
      await record(pull, { mouldId: (await kalvet.form(pull)).moulds[0]!.id, wax: 'pattern', potC: 80 }, 20);
      if (code === 'OTT') piece = first!;
    }
    browser = await Browser.open(kalvet.url);
    await browser.go('/floor');
    await browser.click('.person:not([aria-label])');
    await browser.says('Otter with Reed');
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  it('gets from a disc to its card, puts the piece on hold, and takes the hold off', async () => {
    await browser.click(`[data-piece="${piece}"]`);
    await browser.says('Chase and weigh wax');
    await browser.press('Hold');
    await browser.type('#action-reason', 'client undecided');
    await browser.press('Save');
    await browser.says('On hold: client undecided');
    expect((await kalvet.piece(piece)).piece.state).toBe('hold');
    expect(await browser.driver.getCurrentUrl()).toContain(`piece=${piece}`);
    await browser.press('Take the hold off');
    await until('the hold taken off', async () => (await kalvet.piece(piece)).piece.state === 'in work');
  });

  it('moves the due date, and sees that the piece is late', async () => {
    await browser.go(`/floor?piece=${piece}`);
    await browser.press('Due date, priority');
    await browser.type('#action-day', '5 Jan 2026');
    await browser.press('Save');
    await browser.says('days late');
    await until('the flag', async () =>
      ((await (await browser.find(`[data-piece="${piece}"]`)).getAttribute('aria-label')) ?? '').includes(
        'due Mon 5 Jan',
      ),
    );
  });

  it('filters by room, work, hold and late, in an address that can be shared', async () => {
    await browser.go('/floor?late=1');
    await browser.says('Filtered: 1 works shown');
    await browser.go('/floor?room=wax');
    await browser.says('Sleeping Hound');
    await browser.go('/floor?hold=1');
    await browser.says('Nothing on the floor fits this filter');
    await browser.press('Show all');
    await browser.says('Sleeping Hound');
    await browser.click('[data-test=filter]');
    await browser.pick('filter-work', 'Sleeping Hound');
    await until('the address', async () => (await browser.driver.getCurrentUrl()).includes(`work=${id(3)}`));
    await browser.says('Filtered: 1 works shown');
  });

  it('goes by keyboard: finds a piece, back to the Floor, the list of keys', async () => {
    await browser.go('/floor');
    await browser.says('Otter with Reed');
    const keys = (...pressed: string[]) =>
      browser.driver
        .actions()
        .sendKeys(...pressed)
        .perform();
    await keys('/');
    await keys('ott 2');
    await browser.says('Otter with Reed 2/3');
    await keys(Key.ENTER);
    await until('the piece', async () => (await browser.driver.getCurrentUrl()).includes('/pieces/'));
    await browser.says('Sections, step by step');
    await (await browser.find('#main')).click();
    await keys('g', 'f');
    await until('the Floor', async () => (await browser.driver.getCurrentUrl()).endsWith('/floor'));
    await keys('?');
    await browser.says('set up a new work');
  });

  it('puts a step in, loses a cast, and takes a wrong record back, from the piece’s page', async () => {
    await browser.go(`/pieces/${piece}`);
    await browser.press('Put a step in');
    await browser.pick('insert-kind', 'Rework');
    await browser.type('#insert-why', 'ear sharper');
    await browser.press('Put it in');
    await browser.says('Rework put in');
    await browser.press('A cast was lost');
    await browser.type('#lose-why', 'dropped at the bench');
    await browser.press('It is lost');
    await browser.says('is attempt 2');
    await browser.press('take back');
    await browser.type('[id^=back-]', 'it was another wax');
    await browser.press('Take it back');
    await browser.says('Taken back: OTT 1 lost');
    const { lanes } = await kalvet.piece(piece);
    expect(lanes[0]!.attempts.map(({ state }) => state)).toEqual(['wax']);
  });
});

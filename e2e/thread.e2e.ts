import { Browser } from './browser.ts';
import { Hands } from './hands.ts';
import { Kalvet, until } from './kalvet.ts';
import { PASSWORD } from './session.ts';

const DAY_MS = 86_400_000;

describe('one thread through the foundry', () => {
  let kalvet: Kalvet;
  let browser: Browser;

  beforeAll(async () => {
    // Not a demo: its first person sets the shop up.
    kalvet = await Kalvet.start('kalvet_thread', { demo: false });
    browser = await Browser.open(kalvet.url);
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  it('asks once who is working, sets up a work, and carries a two-section piece to delivery with a leak and a recast on the way', async () => {
    await browser.go('/floor');
    await browser.type('#shop-name', 'Marrowby Quay');
    await browser.type('#who-name', 'Ines Marlow');
    await browser.type('#who-password', PASSWORD);
    await browser.press('Set up the shop');
    await browser.gone('#who-name');
    await kalvet.signIn('Ines Marlow');
    await browser.says('No work has been set up yet');

    await browser.press('Set up the first work');
    await browser.click('[data-test=set-up]');
    await browser.says('is empty');
    await browser.type('#title', 'Heron, Listening');
    await browser.type('#artist', 'Aldous Fenn');
    await browser.type('#edition', '1');
    await browser.click('[data-test=add-section]');
    await browser.type('[aria-label="Name of section 1"]', 'Body');
    await browser.type('[aria-label="Name of section 2"]', 'Wing');
    await browser.type('#expected-wax-0', '2.4');
    await browser.type('#expected-wax-1', '1.1');
    await browser.type('#height-0', '200');
    await browser.type('#height-1', '180');
    await browser.click('[data-test=set-up]');
    // What is there next is the work, with what to do first.
    await browser.says('What comes first');
    await browser.click('[data-test=record-next][aria-label^="Record Make mould"]');
    await browser.find('kv-step-panel');
    const pieceId = new URL(await browser.driver.getCurrentUrl()).pathname.split('/').pop()!;

    // Seventy days back, at eight in the morning: the whole way is written up afterwards, no clock is set.
    const hands = new Hands(
      browser,
      kalvet,
      pieceId,
      new Date(Math.floor(Date.now() / DAY_MS - 70) * DAY_MS + 8 * 3_600_000).toISOString(),
    );
    await hands.record('Make mould', { on: 'Body' });
    await hands.record('Make mould', { on: 'Wing' });
    await hands.record('Pull', { on: 'HER 1 A' });
    await hands.record('Pull', { on: 'HER 1 B' });
    await hands.record('Chase and weigh wax', { on: 'HER 1 A', numbers: { waxKg: '2.41' } });

    // A heavy wax is said while it is typed, and flagged afterwards.
    await hands.open('Chase and weigh wax', 'HER 1 B');
    await browser.type('#reading-waxKg', '1.3');
    await browser.says('Wax 18 % over: +1.7 kg bronze');
    await browser.takeOver();
    await hands.doneAt();
    await browser.click('[data-test=record]');
    await browser.gone('kv-step-panel');
    await browser.says('wax 18 % over');
    await hands.record('Approve wax', { numbers: { by: 'the artist' } });

    // Both sections hang on one tree.
    await hands.open('Join tree', 'HER 1 A');
    await browser.pick('reading-castIds', 'HER 1 B');
    await hands.doneAt();
    await browser.click('[data-test=record]');
    await browser.gone('kv-step-panel');

    // Too early is refused in shop words, and nothing is written.
    await hands.record('Dip coat 1');
    await hands.open('Dip coat 2');
    await browser.type(
      '#done-at',
      (await import('./browser.ts')).asTyped(new Date(Date.parse(hands.clock) - 2 * 3_600_000).toISOString()),
    );
    await browser.click('[data-test=record]');
    await browser.says('too early');
    await hands.doneAt();
    await browser.click('[data-test=record]');
    await browser.gone('kv-step-panel');
    for (const name of ['Dip coat 3', 'Dip coat 4', 'Dip coat 5', 'Seal coat 6']) await hands.record(name);
    await hands.fire();

    await hands.record('Leak test', { outcome: 'Leaks: patch', why: 'hairline at the tip' });
    await browser.says('leaks (hairline at the tip). Patch it, or cast it again?');
    await hands.record('Patch');
    await hands.fire('Refire');
    await hands.record('Leak test again', { outcome: 'Tight' });
    await hands.pour();
    await hands.knockOut(['20.5', '10.9']);
    await hands.record('Inspect', { on: 'HER 1 A', outcome: 'Accept' });
    await hands.record('Inspect', { on: 'HER 1 B', outcome: 'Recast', why: 'misrun at the tip' });

    // The wing goes the whole way again as attempt 2.
    await hands.record('Pull', { on: 'attempt 2' });
    await hands.record('Chase and weigh wax', { numbers: { waxKg: '1.12' } });
    await hands.record('Join tree');
    await hands.coats(6);
    await hands.fire();
    await hands.record('Leak test', { outcome: 'Tight' });
    await hands.pour();
    await hands.knockOut(['9.6']);
    await hands.record('Inspect', { outcome: 'Accept' });

    await hands.record('Join Wing');
    await hands.record('Chase metal');
    await hands.record('Patina', { numbers: { recipe: 'ferric, hot, three coats' } });
    await hands.record('Wax and buff');
    await hands.record('Final inspection', { numbers: { finishedKg: '29.9' } });
    await hands.record('Pack and deliver', { numbers: { toWhom: 'Quayside Gallery' } });

    const done = await until('delivery', async () => {
      const answer = await kalvet.piece(pieceId);
      return answer.piece.state === 'delivered' && answer;
    });
    expect(done.lanes.map(({ attempts }) => attempts.map(({ state }) => state))).toEqual([
      ['metal'],
      ['lost', 'metal'],
    ]);
    expect(done.piece.markInWax).toBe('1/1');
    expect(done.piece.weight!.value).toBe(29.9);
    await browser.says('Delivered');
    await browser.go('/floor');
    await browser.says('1 piece');
    // What was written down today was done over ten weeks.
    expect(Date.parse(done.history[0]!.at) - Date.parse(done.history.at(-3)!.at)).toBeGreaterThan(10 * DAY_MS);
  });
});

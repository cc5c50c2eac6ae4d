import type { SessionAnswer } from '@kalvet/core';
import { Browser } from './browser.ts';
import { Kalvet, sleep, until } from './kalvet.ts';
import { Prepared, nextId } from './prepare.ts';
import { PASSWORD } from './session.ts';

describe('who comes in, and what they see', () => {
  let kalvet: Kalvet;
  let shop: Prepared;
  let browser: Browser;
  let pieceId = '';
  const oskar = { id: nextId(), name: 'Oskar Venn', shortName: 'OV', roles: ['hand'], rooms: ['shell'], gates: [] };

  beforeAll(async () => {
    kalvet = await Kalvet.start('kalvet_sign_in', { demo: false });
    shop = await Prepared.open(kalvet, 'Ines Marlow', 'IM');
    await shop.must('/people', oskar);
    [pieceId = ''] = (await shop.setUp('OTT', 'Otter with Reed', 1)).pieceIds;
    browser = await Browser.open(kalvet.url);
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
  });

  it('a wrong password is said in words, and after some the next try waits', async () => {
    await browser.go('/floor');
    for (let i = 0; i < 3; i++) {
      await browser.type('#who-name', 'Ines Marlow');
      await browser.type('#who-password', `guess ${i}`);
      await browser.click('[data-test=sign-in]');
      await browser.says('do not fit together');
    }
    await browser.type('#who-password', 'guess 4');
    await browser.click('[data-test=sign-in]');
    await browser.says('Too many tries');
    await browser.type('#who-password', PASSWORD);
    await until(
      'the wait over',
      async () => {
        if ((await browser.text()).includes('Otter with Reed')) return true;
        // Gone once it has worked; the Floor may still be on its way.
        const [button] = await browser.driver.findElements({ css: '[data-test=sign-in]' });
        await button?.click();
        await sleep(700);
        return false;
      },
      90_000,
    );
  });

  it('a manager gives somebody a password for one time; they choose their own, and see what is theirs', async () => {
    await browser.go('/people');
    await browser.click('[data-test=password-OV]');
    const code = await browser.find('.given code');
    const once = await code.getText();
    const his = await Browser.open(kalvet.url);
    await his.go('/floor');
    await his.type('#who-name', 'ov');
    await his.type('#who-password', once);
    await his.click('[data-test=sign-in]');
    await his.says('Choose your own password');
    await his.type('#before', once);
    await his.type('#new-password', 'a heron in the reeds');
    await his.press('Keep it and go on');
    await his.says('Otter with Reed');
    // A hand of the shell room: no orders, no settings, no setting up; a mould's step is somebody else's.
    const text = await his.text();
    for (const page of ['Orders', 'Settings', 'Set up a work']) expect(text).withContext(page).not.toContain(page);
    await his.go('/orders');
    await his.says('may not see that; a production manager or office may');
    await his.go(`/pieces/${pieceId}`);
    await his.says('by the mould room');
    expect(await his.driver.findElements({ css: '[data-test=record-next]' })).toEqual([]);
    await his.close();
    expect(await browser.text()).toContain('Orders');
  });

  it('a session that ends while somebody types takes nothing that was typed', async () => {
    await browser.go('/set-up');
    await browser.type('#title', 'Typed before the end');
    // Ended at another place: the next thing that is asked finds out.
    await kalvet.post('/sessions/end', {}, shop.person);
    await browser.type('#artist', 'Wilma Tarn');
    await browser.type('#height-0', '200');
    await browser.click('[data-test=set-up]');
    await browser.says('You are signed out');
    await browser.type('[role=dialog] #who-password', PASSWORD);
    await browser.click('[role=dialog] [data-test=sign-in]');
    await browser.gone('[role=dialog] #who-password');
    expect(await (await browser.find('#title')).getAttribute('value')).toBe('Typed before the end');
    await browser.click('[data-test=set-up]');
    await browser.says('What comes first');
  });

  it('a room’s tablet is paired once; on it people prove themselves by PIN', async () => {
    const his = await Browser.open(kalvet.url);
    await his.go('/floor');
    await his.signIn('Oskar Venn', 'a heron in the reeds');
    await his.click('[data-test=account]');
    await his.click('[data-test=own-pin]');
    await his.type('#own-pin', '4719');
    await his.type('#pin-password', 'a heron in the reeds');
    await his.press('Keep this PIN');
    await his.says('counts on every room');
    await his.close();

    const tablet = await Browser.open(kalvet.url, [800, 1280]);
    await tablet.go('/floor');
    await tablet.signIn('Ines Marlow');
    await tablet.click('[data-test=account]');
    await tablet.click('[data-test=tablet]');
    await tablet.type('#tablet-name', 'At the tanks');
    await tablet.pick('tablet-room', 'Shell');
    await tablet.click('[data-test=pair]');
    await tablet.says('Who works here now?');
    await tablet.click(`[data-person="${oskar.id}"]`);
    for (const figure of ['1', '1', '1', '1']) await tablet.press(figure, '//kv-sign-in');
    await tablet.click('[data-test=pin-go]');
    await tablet.says('That is not the PIN');
    for (let i = 0; i < 4; i++) await tablet.click('.pad [aria-label^="Take the last"]');
    for (const figure of ['4', '7', '1', '9']) await tablet.press(figure, '//kv-sign-in');
    await tablet.click('[data-test=pin-go]');
    await tablet.says('Otter with Reed');
    const session = await tablet.driver.executeAsyncScript<SessionAnswer>(
      'const done = arguments[0]; fetch("/api/session").then((a) => a.json()).then(done)',
    );
    expect([session.person?.name, session.how, session.tablet?.name]).toEqual(['Oskar Venn', 'pin', 'At the tanks']);
    await tablet.close();
    const { lines } = await kalvet.get<{ lines: { what: string; name: string; text: string }[] }>('/audit');
    expect(lines[0]).toEqual(
      jasmine.objectContaining({ what: 'sign in', name: 'Oskar Venn', text: 'at At the tanks' }),
    );
  });
});

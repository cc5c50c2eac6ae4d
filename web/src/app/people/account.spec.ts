import type { SessionsAnswer } from '@kalvet/core';
import { bed, press, show, type } from '../testing/screen';
import { AccountDialog } from './account.dialog';

const HERE = {
  id: 's-1',
  how: 'password' as const,
  since: '2027-03-01T08:00:00.000Z',
  lastSeen: '2027-03-01T09:00:00.000Z',
  agent: 'Firefox on Linux',
  address: '10.0.0.7',
  tablet: null,
  here: true,
};
const SESSIONS: SessionsAnswer = {
  sessions: [HERE, { ...HERE, id: 's-2', here: false, agent: 'Chromium on Android', tablet: 'At the tanks' }],
  hasPassword: true,
  hasPin: false,
};

describe('what belongs to whoever is signed in', () => {
  const open = async (answer: Partial<SessionsAnswer> = {}, roles: ('manager' | 'hand')[] = ['manager']) => {
    const http = bed([], { roles });
    const fixture = await show(AccountDialog, { open: true });
    http.expectOne('/api/sessions').flush({ ...SESSIONS, ...answer });
    await fixture.whenStable();
    return { http, fixture, text: () => document.body.textContent.replace(/\s+/g, ' ') };
  };

  it('says where they are signed in, here and there, and ends one of them or all others', async () => {
    const { http, fixture, text } = await open();
    expect(text()).toContain('Firefox on Linux, here');
    expect(text()).toContain('At the tanks');
    expect(text()).toContain('production manager · signed in by password');
    await press(fixture, 'End it');
    http.expectOne('/api/sessions/s-2/end').flush({});
    http.expectOne('/api/sessions').flush({ ...SESSIONS, sessions: [HERE] });
    await fixture.whenStable();
    expect(text()).not.toContain('At the tanks');
    // Nobody else is left to be signed out.
    expect(text()).not.toContain('Sign out everywhere else');
  });

  it('changes the password with the one before, and takes the new session with its new token', async () => {
    const { http, fixture, text } = await open();
    await press(fixture, 'Change the password');
    await type(fixture, '#own-before', 'three brown otters');
    await type(fixture, '#own-password', 'short');
    await press(fixture, 'Change it');
    const call = http.expectOne('/api/session/password');
    expect(call.request.body).toEqual({ before: 'three brown otters', password: 'short' });
    const fields = { password: 'needs at least 10 letters' };
    call.flush({ error: { code: 'invalid', message: 'x', fields } }, { status: 400, statusText: 'x' });
    await fixture.whenStable();
    expect(document.querySelector('#own-password-wrong')!.textContent).toContain('at least 10 letters');
    await type(fixture, '#own-password', 'a heron in the reeds');
    await press(fixture, 'Change it');
    http.expectOne('/api/session/password').flush({});
    http.expectOne('/api/session').flush({ ...(await import('../testing/screen')).SIGNED_IN, token: 'token-2' });
    http.expectOne('/api/sessions').flush(SESSIONS);
    await fixture.whenStable();
    expect(text()).toContain('The new password counts from now on');
  });

  it('lets a manager alone make a browser a room’s tablet', async () => {
    const { http, fixture } = await open();
    await press(fixture, '[data-test=tablet]');
    await type(fixture, '#tablet-name', 'At the tanks');
    expect(document.querySelector<HTMLButtonElement>('[data-test=pair]')!.disabled).toBeFalse();
    http.verify();
    fixture.destroy();
    await open({}, ['hand']);
    expect(document.querySelector('[data-test=tablet]')).toBeNull();
    expect(document.querySelector('[data-test=own-pin]')).not.toBeNull();
  });
});

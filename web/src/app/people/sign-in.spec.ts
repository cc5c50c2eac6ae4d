import { provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { HttpClient } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { SessionAnswer } from '@kalvet/core';
import { PERSON, SIGNED_IN, press, show, type } from '../testing/screen';
import { Session } from '../shared/session.service';
import { sessionInterceptor } from '../shared/session.interceptor';
import { SignIn } from './sign-in.component';

/** A browser that stands as the server says. */
function stands(given: Partial<SessionAnswer>): HttpTestingController {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideHttpClient(withInterceptors([sessionInterceptor])),
      provideHttpClientTesting(),
    ],
  });
  const http = TestBed.inject(HttpTestingController);
  TestBed.inject(Session).read().subscribe();
  http.expectOne('/api/session').flush({ ...SIGNED_IN, state: 'out', person: null, how: null, token: '', ...given });
  return http;
}

describe('signing in', () => {
  it('sends name and password, says in words what is wrong, and asks how it stands when it was right', async () => {
    const http = stands({});
    const fixture = await show(SignIn, {});
    await type(fixture, '#who-name', 'Ines Marlow');
    await type(fixture, '#who-password', 'three brown otters');
    await press(fixture, '[data-test=sign-in]');
    const wrong = http.expectOne('/api/session');
    expect(wrong.request.body).toEqual({ name: 'Ines Marlow', password: 'three brown otters' });
    const error = { code: 'sign in', message: 'Name and password do not fit together.' };
    wrong.flush({ error }, { status: 401, statusText: 'x' });
    await fixture.whenStable();
    expect(document.body.textContent).toContain('do not fit together');
    await press(fixture, '[data-test=sign-in]');
    http.expectOne('/api/session').flush({});
    http.expectOne({ method: 'GET', url: '/api/session' }).flush(SIGNED_IN);
    expect(TestBed.inject(Session).isIn()).toBeTrue();
  });

  it('sets a shop up that nobody manages, with initials unless another short name is typed', async () => {
    const http = stands({ state: 'set up', shopName: 'Foundry' });
    const fixture = await show(SignIn, {});
    await type(fixture, '#who-name', 'Wilma van Tarn');
    await type(fixture, '#who-password', 'short');
    await press(fixture, '[data-test=set-up-shop]');
    const call = http.expectOne('/api/set-up');
    expect(call.request.body).toEqual({ name: 'Wilma van Tarn', shortName: 'WVT', password: 'short' });
    const fields = { password: 'needs at least 10 letters' };
    call.flush({ error: { code: 'invalid', message: 'x', fields } }, { status: 400, statusText: 'x' });
    await fixture.whenStable();
    expect(document.querySelector('#who-password-wrong')?.textContent).toContain('at least 10 letters');
  });

  it('at a tablet asks for a PIN by a pad of figures, and the demo for one tap', async () => {
    const choices = [{ id: 'p-2', name: 'Oskar Venn', shortName: 'OV', roles: ['hand' as const] }];
    let http = stands({ tablet: { name: 'Tablet at the tanks', room: 'shell' }, choices });
    let fixture = await show(SignIn, {});
    expect(document.body.textContent).toContain('Tablet at the tanks');
    await press(fixture, '[data-person=p-2]');
    for (const figure of ['4', '7', '1', '9']) await press(fixture, figure);
    await press(fixture, '[data-test=pin-go]');
    expect(http.expectOne('/api/session/pin').request.body).toEqual({ personId: 'p-2', pin: '4719' });
    fixture.destroy();
    http = stands({ demo: true, choices });
    fixture = await show(SignIn, {});
    await press(fixture, '[data-person=p-2]');
    expect(http.expectOne('/api/session/demo').request.body).toEqual({ personId: 'p-2' });
  });
});

describe('a session', () => {
  it('gives writes its token, and its page stays where the server knows it no more', () => {
    const http = stands(SIGNED_IN);
    const session = TestBed.inject(Session);
    const client = TestBed.inject(HttpClient);
    client.post('/api/works', {}).subscribe();
    expect(http.expectOne('/api/works').request.headers.get('X-Kalvet-Token')).toBe('token-1');
    client.get('/api/floor').subscribe({ error: () => undefined });
    http.expectOne('/api/floor').flush({ error: { code: 'sign in' } }, { status: 401, statusText: 'x' });
    expect([session.ended(), session.isIn(), session.person()?.id]).toEqual([true, true, PERSON.id]);
    // A tablet offers anew who may come in.
    const tablet = { name: 'At the tanks', room: 'shell' as const };
    http.expectOne('/api/session').flush({ ...SIGNED_IN, state: 'out', person: null, tablet });
    expect(session.offer()!.tablet).toEqual(tablet);
    // The same person signs in again: the page goes on with the new token.
    session.read().subscribe();
    http.expectOne('/api/session').flush({ ...SIGNED_IN, token: 'token-2' });
    expect([session.ended(), session.token()]).toEqual([false, 'token-2']);
  });
});

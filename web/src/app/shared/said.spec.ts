import { bed, page, press, show } from '../testing/screen';
import { SaidView } from './said.component';
import { SaidLine } from './said.service';
import { TestBed } from '@angular/core/testing';

describe('the line at the foot', () => {
  const open = async () => {
    const http = bed();
    const fixture = await show(SaidView, {});
    const say = async (...said: Parameters<SaidLine['say']>) => {
      TestBed.inject(SaidLine).say(...said);
      await fixture.whenStable();
    };
    return { http, fixture, say, text: () => page(fixture).textContent!.replace(/\s+/g, ' ').trim() };
  };

  it('says what was recorded with what it brings along, and takes that very record back with a reason', async () => {
    const { http, fixture, say, text } = await open();
    await say('Pull recorded, OTT 4', { change: 812, takesBack: true, flags: ['M-5 has 1 pull left'] });
    expect(text()).toContain('Pull recorded, OTT 4');
    expect(text()).toContain('M-5 has 1 pull left');
    await press(fixture, '[data-test=take-back]');
    const sent = http.expectOne('/api/changes/812/take-back');
    expect(sent.request.body).toEqual({ reason: 'a slip, taken back at once' });
    sent.flush({ change: 813, takenBack: 812 });
    await fixture.whenStable();
    expect(text()).toContain('Taken back');
    expect(page(fixture).querySelector('[data-test=take-back]')).toBeNull();
  });

  it('offers nothing where a record is changed and not taken back, and says why one cannot be', async () => {
    const { http, fixture, say, text } = await open();
    await say('O-2 saved', { change: 9 });
    expect(page(fixture).querySelector('[data-test=take-back]')).toBeNull();
    await say('Pull recorded', { change: 10, takesBack: true });
    await press(fixture, '[data-test=take-back]');
    http
      .expectOne('/api/changes/10/take-back')
      .flush(
        { error: { code: 'state', message: 'Chase wax was recorded on it since: take that back first.' } },
        { status: 409, statusText: 'Conflict' },
      );
    await fixture.whenStable();
    expect(text()).toContain('take that back first');
  });
});

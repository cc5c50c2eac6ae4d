import { Component, signal } from '@angular/core';
import { bed, show } from '../testing/screen';
import { Submission } from './submission';

@Component({ selector: 'kv-typed', template: '' })
class Typed {
  readonly sending = new Submission();
  readonly note = signal('');
  readonly at = signal<Date | null>(null);
  readonly readings = signal<Record<string, unknown>>({});

  begin(): void {
    this.sending.keep('step s-1', { note: this.note, at: this.at, readings: this.readings });
  }
}

describe('what is typed into a form', () => {
  const open = async () => {
    const fixture = await show(Typed, {});
    fixture.componentInstance.begin();
    await fixture.whenStable();
    return fixture;
  };

  const drafts = () => Object.keys(localStorage).filter((key) => key.startsWith('kalvet.draft.'));

  it('comes back after the page was left, dates and all, says since when, and can be begun afresh', async () => {
    bed();
    const left = await open();
    const at = new Date('2027-03-01T10:40:00Z');
    left.componentInstance.note.set('crack at the reed');
    left.componentInstance.at.set(at);
    left.componentInstance.readings.set({ kg: 2.43 });
    await left.whenStable();
    left.destroy();
    const { componentInstance: back } = await open();
    expect([back.note(), back.at(), back.readings()]).toEqual(['crack at the reed', at, { kg: 2.43 }]);
    expect(back.sending.draft.since()).toBeTruthy();
    back.sending.draft.beginAfresh();
    expect([back.note(), back.at(), back.sending.draft.since()]).toEqual(['', null, undefined]);
  });

  it('is gone once it is recorded, and stays where it was refused', async () => {
    const http = bed();
    const fixture = await open();
    const form = fixture.componentInstance;
    form.note.set('seen');
    await fixture.whenStable();
    form.sending.send('/steps/s-1/record', { note: 'seen' }, () => undefined);
    http
      .expectOne('/api/steps/s-1/record')
      .flush({ error: { code: 'refused', message: 'no' } }, { status: 409, statusText: 'x' });
    expect(drafts().length).toBe(1);
    form.sending.send('/steps/s-1/record', { note: 'seen' }, () => undefined);
    http.expectOne('/api/steps/s-1/record').flush({ change: 2 });
    await fixture.whenStable();
    expect(drafts()).toEqual([]);
  });

  it('is its person’s: somebody else at the same browser finds an empty form', async () => {
    bed();
    const left = await open();
    left.componentInstance.note.set('mine');
    await left.whenStable();
    const kept = { ...localStorage };
    left.destroy();
    bed([], { id: 'p-9' });
    for (const [key, value] of Object.entries(kept)) localStorage.setItem(key, String(value));
    expect((await open()).componentInstance.note()).toBe('');
  });
});

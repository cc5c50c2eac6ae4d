import { Component } from '@angular/core';
import type { StandingAnswer } from '@kalvet/core';
import { bed, page, show } from '../testing/screen';
import { May } from './may.directive';
import { Standing } from './standing.component';

describe('what stands above every page', () => {
  const standing = async (rest: Partial<StandingAnswer>, roles: ('manager' | 'hand')[] = ['manager']) => {
    const http = bed([], { roles });
    const fixture = await show(Standing, {});
    // Asked at once, and then each minute.
    await new Promise((resolve) => setTimeout(resolve, 5));
    const backup = { checkedAt: '2027-03-01T08:00:00.000Z', overdue: false, trouble: null };
    http.expectOne('/api/standing').flush({ now: '2027-03-01T09:00:00.000Z', disk: null, backup, ...rest });
    await fixture.whenStable();
    const text = page(fixture).textContent!.trim().replace(/\s+/g, ' ');
    fixture.destroy();
    return text;
  };

  it('is nothing while all is well', async () => {
    expect(await standing({ disk: { freeMb: 90_000, state: 'well' } })).toBe('');
  });

  it('warns everybody of a disk that fills up, and says when nothing can be recorded', async () => {
    expect(await standing({ disk: { freeMb: 800, state: 'low' } }, ['hand'])).toContain('800 MB are left');
    expect(await standing({ disk: { freeMb: 90, state: 'full' } }, ['hand'])).toContain('nothing can be recorded');
  });

  it('alarms a manager, and nobody else, when proven copies are missing', async () => {
    const backup = { checkedAt: '2027-03-01T08:00:00.000Z', overdue: true, trouble: 'the second place is away' };
    const text = await standing({ backup });
    expect(text).toContain('The last proven backup is of Mon 1 Mar 2027, 08:00.');
    expect(text).toContain('the second place is away');
    expect(await standing({ backup }, ['hand'])).toBe('');
    expect(await standing({ backup: { ...backup, checkedAt: null, trouble: null } })).toContain('no proven backup yet');
  });
});

@Component({
  selector: 'kv-guarded',
  imports: [May],
  template: `<b *kvMay="'hold'">hold</b> <i *kvMay="'record step'; room: 'shell'">dip</i>
    <u *kvMay="'record step'; room: 'wax'">wax</u>`,
})
class Guarded {}

describe('what is only for some', () => {
  const shown = async (person: Parameters<typeof bed>[1]) => {
    bed([], person);
    const shownNow = page(await show(Guarded, {})).querySelectorAll('b, i, u');
    return [...shownNow].map((each) => each.textContent);
  };

  it('is shown to those who may, in their rooms', async () => {
    expect(await shown({ roles: ['manager'] })).toEqual(['hold', 'dip', 'wax']);
    expect(await shown({ roles: ['hand'], rooms: ['shell'] })).toEqual(['dip']);
    expect(await shown({ roles: ['visitor'] })).toEqual([]);
  });
});

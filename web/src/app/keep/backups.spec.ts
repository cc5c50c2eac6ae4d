import type { Backup, BackupsAnswer } from '@kalvet/core';
import { BACKUP_WISHES } from '@kalvet/core';
import { bed, page, press, show, type } from '../testing/screen';
import { BackupsPage } from './backups.page';

const backup = (rest: Partial<Backup>): Backup => ({
  id: 'b-1',
  why: 'schedule',
  state: 'checked',
  askedAt: new Date().toISOString(),
  madeAt: new Date(Date.now() - 6 * 3_600_000).toISOString(),
  checkedAt: null,
  file: '/data/backups/kalvet.tar',
  bytes: 3 * 1024 * 1024,
  change: 7,
  second: null,
  error: null,
  ...rest,
});

describe('the page of backups', () => {
  const open = async (answer: Partial<BackupsAnswer>) => {
    const http = bed();
    const fixture = await show(BackupsPage, {});
    http
      .expectOne('/api/backups')
      .flush({ version: 4, wishes: BACKUP_WISHES, backups: [], now: new Date().toISOString(), ...answer });
    await fixture.whenStable();
    return { http, fixture, text: () => page(fixture).textContent!.replace(/\s+/g, ' ') };
  };

  it('says how old the newest proven one is, and what became of each in words', async () => {
    const failed = backup({ id: 'b-2', state: 'failed', error: 'the disk is full', bytes: null, file: null });
    const copied = backup({ second: '/mnt/second/kalvet.tar' });
    const { text } = await open({ backups: [failed, copied] });
    expect(text()).toContain('Last proven backup 6 h ago');
    expect(text()).toContain('failed: the disk is full');
    expect(text()).toContain('read back, the same as the records; a second copy lies in the other place');
    expect(text()).toContain('3.0 MB');
  });

  it('is alarmed without one, or with one older than a day, and saves wishes by the version seen', async () => {
    const old = backup({ madeAt: new Date(Date.now() - 30 * 3_600_000).toISOString() });
    const { http, fixture, text } = await open({ backups: [old] });
    expect(text()).toContain('Last proven backup 30 h ago');
    expect(page(fixture).querySelector('#b-stand')!.classList).toContain('kv-alert');
    await type(fixture, '#b-second', '/mnt/second');
    await press(fixture, '[data-test=save-backups]');
    const call = http.expectOne('/api/settings/backups');
    expect(call.request.body).toEqual({ version: 4, everyHours: 6, keep: 28, secondFolder: '/mnt/second' });
    expect((await open({})).text()).toContain('No proven backup yet');
  });
});

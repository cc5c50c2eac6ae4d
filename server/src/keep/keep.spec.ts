import { diskState } from '@kalvet/core';
import type { BackupsAnswer, StandingAnswer } from '@kalvet/core';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';

describe('how the records are kept', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  const backups = () => shop.get<BackupsAnswer>('/api/backups');
  const standing = () => shop.get<StandingAnswer>('/api/standing');
  const made = (hoursAgo: number, rest: object) => {
    const at = new Date(Date.now() - hoursAgo * 3_600_000);
    return shop.store.models.backups.create({
      id: newId(),
      why: 'schedule',
      state: 'checked',
      askedAt: at,
      madeAt: at,
      ...rest,
    });
  };

  it('alarms when the newest proven copy is older than a day, and says what went wrong since', async () => {
    // A shop that has only just begun has a day's time for its first one.
    expect((await standing()).backup).toEqual({ checkedAt: null, overdue: false, trouble: null });
    await made(30, {});
    await made(2, { state: 'failed', error: 'the second place /mnt/x cannot be written' });
    const { backup } = await standing();
    expect([backup.overdue, backup.trouble]).toEqual([true, 'the second place /mnt/x cannot be written']);
    await made(1, {});
    expect((await standing()).backup).toEqual(jasmine.objectContaining({ overdue: false, trouble: null }));
  });

  it('takes wishes that can be kept, by version, and one asking at a time', async () => {
    const { version } = await backups();
    const wishes = { version, everyHours: 3, keep: 14, secondFolder: '/mnt/second' };
    const save = (body: object) => shop.send('put', '/api/settings/backups', body);
    expect((await save({ ...wishes, everyHours: 5 })).status).toBe(400);
    expect((await save({ ...wishes, secondFolder: 'second' })).status).toBe(400);
    expect((await save({ ...wishes, keep: 1 })).status).toBe(400);
    await shop.must(save(wishes));
    expect((await save(wishes)).status).toBe(409);
    expect((await backups()).wishes).toEqual({ everyHours: 3, keep: 14, secondFolder: '/mnt/second' });
    await shop.must(shop.send('post', '/api/backups', { id: newId() }));
    const again = await shop.send('post', '/api/backups', { id: newId() });
    expect([again.status, again.body.error.rule]).toEqual([409, 'busy']);
    expect((await backups()).backups.map(({ state }) => state)).toEqual(['wanted']);
  });

  it('knows what free room means', () => {
    // Warned at 1 GB, refused at 200 MB.
    expect([199, 200, 1023, 1024].map(diskState)).toEqual(['full', 'low', 'low', 'well']);
  });
});

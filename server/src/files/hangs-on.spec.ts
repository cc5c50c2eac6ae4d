// What a file hangs on, in words, where its page is, and whose histories tell of it.
import type { Id, PieceAnswer } from '@kalvet/core';
import { TestShop } from '../testing/shop.ts';
import { hooksOf } from './hangs-on.ts';

describe('what a file hangs on', () => {
  let shop: TestShop;
  let pieceId: Id;
  let workId: Id;
  beforeEach(async () => {
    shop = await TestShop.open();
    const set = await shop.setUp();
    workId = set.id;
    [pieceId] = set.pieceIds as [Id];
    await shop.makeMould(pieceId);
    await shop.carry(pieceId, 'dip-coat');
  });
  const one = async (table: string, where = ''): Promise<Id> => {
    const [rows] = await shop.store.db.query(`SELECT id FROM ${table} ${where} LIMIT 1`);
    return (rows as { id: Id }[])[0]!.id;
  };

  it('is called by its own name, leads to its page, and is told where it belongs', async () => {
    const { lanes, work } = await shop.get<PieceAnswer>(`/api/pieces/${pieceId}`);
    const [attempt] = lanes[0]!.attempts;
    const step = attempt!.steps.find(({ kind }) => kind === 'pull')!;
    const asked = [
      { subject: 'work', subjectId: workId },
      { subject: 'section', subjectId: lanes[0]!.sectionId },
      { subject: 'piece', subjectId: pieceId },
      { subject: 'cast', subjectId: attempt!.castId },
      { subject: 'tree', subjectId: attempt!.tree!.id },
      { subject: 'mould', subjectId: await one('mould') },
      { subject: 'pull', subjectId: await one('pull') },
      { subject: 'step', subjectId: step.id },
    ] as const;
    const hooks = await hooksOf(shop.store, asked);
    const told = asked.map(({ subject, subjectId }) => {
      const { on, path, concerns } = hooks.get(subjectId)!;
      return [subject, on, path.split('/')[1], concerns.map(([kind]) => kind).join()];
    });
    expect(told).toEqual([
      ['work', work.title, 'works', 'work'],
      ['section', 'whole', 'works', 'work'],
      ['piece', `${work.title} 1/1`, 'pieces', 'piece'],
      ['cast', jasmine.stringContaining('1') as unknown as string, 'pieces', 'cast,piece'],
      ['tree', jasmine.stringMatching(/^T-\d+$/) as unknown as string, 'pieces', 'tree,cast,piece'],
      ['mould', jasmine.stringMatching(/^M-\d+ /) as unknown as string, 'works', 'mould,work'],
      ['pull', jasmine.stringMatching(/^pull \d+$/) as unknown as string, 'works', 'mould,work'],
      ['step', jasmine.stringContaining('Pull') as unknown as string, 'pieces', 'step,cast,piece'],
    ]);
    expect(hooks.get(step.id)!.room).toBe('wax');
    expect(hooks.get(pieceId)!.mark).toBe('1/1');
  });

  it('is left out where there is no such record', async () => {
    const hooks = await hooksOf(shop.store, [{ subject: 'load', subjectId: pieceId }]);
    expect(hooks.size).toBe(0);
  });
});

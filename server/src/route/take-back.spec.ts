import { compareProjections } from '../shop/project.ts';
import { TestShop, readings } from '../testing/shop.ts';

describe('taking back', () => {
  let shop: TestShop;
  let piece: string;
  beforeEach(async () => {
    shop = await TestShop.open();
    piece = (await shop.setUp()).pieceIds[0]!;
    await shop.makeMould(piece);
  });

  const takeBack = async (change: number, reason = 'wrong piece') =>
    shop.send('post', `/api/changes/${change}/take-back`, { reason });
  const records = async () => {
    const [rows] = await shop.store.db.query(
      'SELECT (SELECT COUNT(*) FROM step) steps, (SELECT COUNT(*) FROM cast_) casts, (SELECT COUNT(*) FROM tree) trees, (SELECT COUNT(*) FROM weight) weights, (SELECT COUNT(*) FROM pull) pulls',
    );
    return (rows as Record<string, number>[])[0]!;
  };

  it('puts everything as it was, and both stay in the history', async () => {
    await shop.carry(piece, 'chase-wax');
    const before = await records();
    const step = await shop.open(piece, 'chase-wax');
    shop.later(120);
    const { body } = await shop.must(shop.record(step, 'remake', {}, { note: 'dropped' }));
    expect((await records())['casts']).toBe(2);
    await shop.must(takeBack(body.change));
    expect(await records()).toEqual(before);
    const now = await shop.piece(piece);
    expect(now.piece.sections[0]).toEqual(jasmine.objectContaining({ attempt: 1, room: 'wax' }));
    expect(now.history.slice(0, 2).map(({ verb, takenBack }) => [verb, takenBack])).toEqual([
      ['take back', false],
      ['record step', true],
    ]);
    const { stored, anew } = await compareProjections(shop.store);
    expect(stored).toEqual(anew);
    // The same step can be recorded rightly now.
    await shop.must(shop.done((await shop.open(piece, 'chase-wax')).id));
  });

  it('is refused while something done hangs on it, and names what', async () => {
    await shop.carry(piece, 'coat');
    const changes: number[] = [];
    for (let i = 0; i < 2; i++) {
      const step = await shop.open(piece, 'coat');
      shop.later(5 * 60);
      changes.push((await shop.must(shop.record(step, 'done', readings(await shop.form(step.id))))).body.change);
    }
    const first = await takeBack(changes[0]!);
    expect([first.status, first.body.error.rule]).toEqual([409, 'follows']);
    expect(first.body.error.message).toContain('Dip coat 2 of 6');
    await shop.must(takeBack(changes[1]!));
    await shop.must(takeBack(changes[0]!));
    expect((await takeBack(changes[0]!)).body.error.message).toContain('already');
  });

  it('takes a pour back: the tree waits for it again', async () => {
    await shop.carry(piece, 'pour');
    const step = await shop.open(piece, 'pour');
    const { body } = await shop.must(shop.pour(step.carrierId, 'C87300'));
    await shop.must(takeBack(body.change));
    const again = await shop.form(step.id);
    expect(again.step.state).toBe('planned');
    expect(again.heats[0]!.pourings[0]!.outcome).toBeNull();
  });

  it('takes a whole load back: every tree waits for the kiln again, what was lost in it is there again', async () => {
    const second = await shop.setUp({ code: 'TWO', title: 'Two' });
    await shop.makeMould(second.pieceIds[0]!);
    for (const id of [piece, second.pieceIds[0]!]) await shop.carry(id, 'fire');
    const steps = await Promise.all([piece, second.pieceIds[0]!].map((id) => shop.open(id, 'fire')));
    shop.later(600);
    const treeIds = steps.map(({ carrierId }) => carrierId);
    const record = {
      startedAt: null,
      endedAt: shop.now,
      by: [shop.person],
      profile: 'x',
      topC: 900,
      note: '',
      lost: [{ treeId: treeIds[1]!, why: 'burst' }],
    };
    const { body } = await shop.must(shop.fire(treeIds, { record }));
    await shop.must(takeBack(body.change));
    for (const { id } of steps) expect((await shop.form(id)).step.state).toBe('planned');
    expect((await shop.piece(second.pieceIds[0]!)).lanes[0]!.attempts.map(({ state }) => state)).toEqual(['wax']);
    expect((await shop.get<{ loads: unknown[] }>('/api/loads')).loads).toEqual([]);
    await shop.must(shop.fire(treeIds));
  });

  it('takes a hold back as what it was, and a loss with everything that grew from it', async () => {
    await shop.carry(piece, 'join-tree');
    const { version } = (await shop.piece(piece)).piece;
    const held = await shop.must(
      shop.send('post', `/api/pieces/${piece}/hold`, { version, reason: 'wrong piece', until: null }),
    );
    await shop.must(takeBack(held.body.change));
    expect((await shop.piece(piece)).piece).toEqual(jasmine.objectContaining({ state: 'in work', holdReason: null }));
    const before = await records();
    const cast = (await shop.piece(piece)).lanes[0]!.attempts[0]!;
    const lost = await shop.must(
      shop.send('post', `/api/casts/${cast.castId}/lose`, {
        version: cast.version,
        room: 'wax',
        why: 'dropped',
        at: shop.now,
      }),
    );
    await shop.must(takeBack(lost.body.change));
    expect(await records()).toEqual(before);
    await shop.carry(piece, 'coat');
  });

  it('a mould that was not made after all is waited for again', async () => {
    const other = await shop.setUp({ code: 'NEW', title: 'New' });
    const [step] = (await shop.piece(other.pieceIds[0]!)).piece.next;
    const { body } = await shop.must(shop.record((await shop.form(step!.stepId)).step, 'done', { lifePulls: 60 }));
    expect((await shop.piece(other.pieceIds[0]!)).piece.next.map(({ kind }) => kind)).toEqual(['pull']);
    await shop.must(takeBack(body.change));
    expect((await shop.piece(other.pieceIds[0]!)).piece.next.map(({ kind }) => kind)).toEqual(['make-mould', 'pull']);
  });

  it('frees the mould of a pull that was begun by mistake', async () => {
    const step = await shop.open(piece, 'pull');
    const { moulds } = await shop.form(step.id);
    const begun = await shop.must(
      shop.send('post', `/api/steps/${step.id}/start`, {
        version: step.version,
        startedAt: shop.now,
        readings: { mouldId: moulds[0]!.id, wax: 'pattern' },
      }),
    );
    expect((await shop.floor()).mouldsInUse).toBe(1);
    await shop.must(takeBack(begun.body.change));
    const floor = await shop.floor();
    expect([floor.mouldsInUse, floor.works[0]!.notBegun.length]).toEqual([0, 1]);
  });

  it('needs a reason, an existing record, and one that can be taken back', async () => {
    expect((await takeBack(1, ' ')).status).toBe(400);
    expect((await takeBack(99999)).status).toBe(404);
    const [rows] = await shop.store.db.query("SELECT number FROM event WHERE verb = 'set up work'");
    expect((await takeBack((rows as { number: number }[])[0]!.number)).body.error.rule).toBe('state');
  });
});

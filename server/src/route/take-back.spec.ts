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

  it('needs a reason, an existing record, and one that can be taken back', async () => {
    expect((await takeBack(1, ' ')).status).toBe(400);
    expect((await takeBack(99999)).status).toBe(404);
    const [rows] = await shop.store.db.query("SELECT number FROM event WHERE verb = 'set up work'");
    expect((await takeBack((rows as { number: number }[])[0]!.number)).body.error.rule).toBe('state');
  });
});

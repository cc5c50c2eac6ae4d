import { compareProjections } from '../shop/project.ts';
import { TestShop, section } from '../testing/shop.ts';

describe('one thread through the foundry', () => {
  it('carries a piece of two sections from the mould to delivery, and its history tells every step', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp({
      sections: [section('body'), section('wing', { seamM: 0.4 })],
      approval: 'first',
    });
    await shop.makeMould(pieceIds[0]!);
    await shop.carry(pieceIds[0]!, 'delivered');
    const { piece, lanes, pieceSteps, history } = await shop.piece(pieceIds[0]!);
    expect(piece.state).toBe('delivered');
    expect(piece.markInWax).toBe('1/1');
    expect(
      [...lanes.flatMap(({ attempts }) => attempts.flatMap(({ steps }) => steps)), ...pieceSteps].every(
        ({ state }) => state === 'done',
      ),
    ).toBeTrue();
    // the mould, 2 sections × (pull, chase, join, 6 coats, fire, test, heat: plan + crew + pour, knock-out, inspect) + approve, join, chase, patina, wax, final, deliver + set-up
    expect(history.length).toBe(1 + 2 * 16 + 7 + 1);
    const floor = await shop.floor();
    expect(floor.works[0]!.delivered).toBe(1);
    const { stored, anew } = await compareProjections(shop.store);
    expect(stored).toEqual(anew);
  });
});

import type { CrewPlace, HeatAnswer, ShopNumbers } from '@kalvet/core';
import { DEFAULT_SETTINGS, POUR_CHECKS, inWords, numbersOf } from '@kalvet/core';
import { newId } from '../write/new-id.ts';
import { TestShop } from '../testing/shop.ts';

/** The shop's numbers, with a crucible that two people carry: as shipped, a hoist lifts it. */
const byHand = (): ShopNumbers => {
  return {
    ...numbersOf(DEFAULT_SETTINGS),
    carriers: 2,
    // As the shop has it: a little under what the two will carry.
    liftLimitKg: 24,
  };
};

describe('the crew of a heat', () => {
  async function heatToConfirm() {
    const shop = await TestShop.open();
    const second = await shop.addPerson('Tomas Quill', 'TQ', { roles: ['hand'] });
    const { pieceIds } = await shop.setUp();
    await shop.makeMould(pieceIds[0]!);
    await shop.carry(pieceIds[0]!, 'pour');
    const treeId = (await shop.piece(pieceIds[0]!)).piece.next[0]!.carrierId;
    const id = newId();
    await shop.must(
      shop.send('post', '/api/heats', {
        id,
        alloyId: 'C87300',
        plannedFor: null,
        trees: [{ treeId }],
        chargeLines: [],
      }),
    );
    const confirm = (crew: readonly CrewPlace[], version = 1) =>
      shop.send('post', `/api/heats/${id}/crew`, {
        version,
        crew,
        signs: 'by hand',
        checks: POUR_CHECKS,
        coverConfirmed: true,
      });
    const place = (role: CrewPlace['role'], personId: string, deputyId: string | null = null): CrewPlace => ({
      role,
      personId,
      deputyId,
    });
    return { shop, id, second, confirm, place, piece: pieceIds[0]! };
  }

  it('is kept by role with its deputies and the signs, and told in the history', async () => {
    const { shop, id, second, confirm, place, piece } = await heatToConfirm();
    await shop.must(confirm([place('lead', shop.person, second), place('second', second)]));
    const heat = await shop.get<HeatAnswer>(`/api/heats/${id}`);
    expect(heat.crew).toEqual([place('lead', shop.person, second), place('second', second)]);
    expect([heat.leadId, heat.signs]).toEqual([shop.person, 'by hand']);
    const { history } = await shop.piece(piece);
    expect(history.map(({ text }) => inWords(text)).join('\n')).toContain(
      'signs by hand: Ines Marlow leads the pour (deputy Tomas Quill), Tomas Quill second at the crucible',
    );
  });

  it('is refused without one lead, with one person at both ends of the crucible, or with somebody unknown', async () => {
    const { shop, second, confirm, place } = await heatToConfirm();
    const said = async (crew: readonly CrewPlace[]) => {
      const { status, body } = await confirm(crew);
      return [status, (body as { error: { fields?: { crew?: string } } }).error.fields?.crew];
    };
    expect(await said([place('second', second)])).toEqual([400, 'name one who leads the pour']);
    expect(await said([place('lead', second), place('lead', shop.person)])).toEqual([
      400,
      'name one who leads the pour',
    ]);
    expect(await said([place('lead', second), place('second', second)])).toEqual([
      400,
      'lead and second are two people',
    ]);
    expect(await said([place('lead', second, second)])).toEqual([400, 'nobody stands in for themselves']);
    expect(await said([place('lead', newId())])).toEqual([400, 'names somebody who does not work here']);
  });

  it('is asked again where the heat’s trees change, and says when the crucible is too heavy to carry', async () => {
    const { shop, id, confirm, place } = await heatToConfirm();
    await shop.must(shop.send('put', '/api/settings', { version: 0, numbers: byHand() }));
    await shop.must(confirm([place('lead', shop.person)]));
    const heat = await shop.get<HeatAnswer>(`/api/heats/${id}`);
    // 24 kg of crucible, 14 kg of tongs and 11.4 kg of charge over two people: 24.7 kg each, over the limit of 24 kg.
    expect(heat.charge.value).toBeCloseTo(11.4, 1);
    const carried = heat.warnings.map((text) => inWords(text)).filter((text) => text.startsWith('Carried by'));
    expect(carried).toEqual([jasmine.stringContaining('Carried by 2: 25 kg each')]);
    const { treeId, plannedKg } = heat.pourings[0]!;
    await shop.must(
      shop.send('put', `/api/heats/${id}`, {
        version: heat.version,
        plannedFor: null,
        trees: [{ treeId, plannedKg: plannedKg + 60 }],
        chargeLines: [],
      }),
    );
    const changed = await shop.get<HeatAnswer>(`/api/heats/${id}`);
    expect([changed.crew, changed.coverConfirmedById]).toEqual([null, null]);
    // (38 + over 60 kg) / 2 lies well over 25 kg.
    expect(changed.warnings.some((text) => inWords(text).includes('Use the hoist'))).toBeTrue();
  });
});

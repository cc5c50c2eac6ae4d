import type { DraftChange } from '../../records/draft.ts';
import { DEFAULT_CALENDARS, DEFAULT_RESOURCES } from '../../records/plan.ts';
import { setUpOf } from '../../shop/set-up-anew.ts';
import { doingBy } from '../../testing/doing.ts';
import { snapshot } from '../../testing/plan-snapshot.ts';
import { START, counter, openStep, play, smallShop } from '../../testing/play.ts';
import { inWords } from '../../units/words.ts';
import { pieceEnds, planAsIs, planWith } from './draft-plan.ts';
import { nextName, openOn, shutOn, tryChanges } from './try-changes.ts';

const pourDays = DEFAULT_CALENDARS.find(({ name }) => name === 'Pour days')!;
const kiln = DEFAULT_RESOURCES.find(({ kind }) => kind === 'kiln')!;

describe('changes that are tried', () => {
  it('open a day with the hours of its weekday, or of the first day of the week', () => {
    // Pour days are Thursdays from 9 to 16; the 2nd of March is a Tuesday.
    expect(openOn(pourDays, '2027-03-02')!.extra).toEqual([{ date: '2027-03-02', from: '09:00', to: '16:00' }]);
    expect(openOn(pourDays, '2027-03-04')).toBeUndefined();
    // What was shut on purpose is open again, and no second time.
    const shut = shutOn(pourDays, '2027-03-04')!;
    expect(shut.closed).toEqual(['2027-03-04']);
    expect(openOn(shut, '2027-03-04')).toEqual({ ...pourDays, closed: [] });
    // An extra day that is shut again is simply not there.
    expect(shutOn(openOn(pourDays, '2027-03-02')!, '2027-03-02')!.extra).toEqual([]);
    expect(shutOn(pourDays, '2027-03-02')).toBeUndefined();
  });

  it('follow one another; what cannot be done is left out and said, the rest is tried', () => {
    const newId = counter();
    const shop = smallShop({}, newId);
    const changes: DraftChange[] = [
      { kind: 'closed day', calendarId: pourDays.id, date: '2027-03-02' },
      { kind: 'count', resourceId: kiln.id, count: 2 },
      { kind: 'hold', pieceId: 'nobody', until: null, shells: 'stop' },
      { kind: 'lost cast', castId: shop.casts[0]!.id },
    ];
    const given = snapshot(shop);
    const { snapshot: tried, faults } = tryChanges(given, changes, doingBy(newId));
    expect(faults.map(({ place, text }) => [place, inWords(text)])).toEqual([
      [0, 'Pour days are shut on 2027-03-02 already.'],
      [2, 'The piece is not there any more.'],
      [3, jasmine.stringMatching('has not been begun: there is nothing to lose')],
    ]);
    expect(tried.resources.find(({ id }) => id === kiln.id)!.count).toBe(2);
    // What was given stays as it was.
    expect(given.resources).toBe(DEFAULT_RESOURCES);
  });

  it('hold a piece, lose a cast, make a second mould: dates move as the records would', () => {
    const newId = counter();
    const shop = smallShop({ pieces: 4 }, newId);
    const given = snapshot(shop);
    const [first] = shop.pieces;
    const ends = pieceEnds(planAsIs(given));
    const withChange = (change: DraftChange, from = given) => pieceEnds(planWith(from, [change], doingBy(newId)));
    const held = withChange({ kind: 'hold', pieceId: first!.id, until: '2027-06-01', shells: 'stop' });
    // Not before the first of June, 92 days after the 1st of March; and out some time later.
    expect(held.get(first!.id)!).toBeGreaterThan(92 * 1440);
    const last = (of: Map<string, number>) => Math.max(...shop.pieces.map(({ id }) => of.get(id) ?? 0));
    expect(last(withChange({ kind: 'mould', mouldId: shop.moulds[0]!.id }))).toBeLessThanOrEqual(last(ends));

    let begun = play(shop, openStep(shop, 'make-mould'), newId);
    const pull = openStep(begun, 'pull');
    begun = play(begun, pull, newId);
    const at = snapshot(begun, '2027-03-08T08:00:00.000Z');
    const piece = begun.casts.find(({ id }) => id === pull.carrierId)!.pieceId;
    const lost = withChange({ kind: 'lost cast', castId: pull.carrierId }, at);
    expect(lost.get(piece)!).toBeGreaterThan(pieceEnds(planAsIs(at)).get(piece)!);
  });

  it('an enquiry is planned with its own mould and pieces, and moves nothing that was told', () => {
    const newId = counter();
    const shop = smallShop({ pieces: 2 }, newId);
    const told = planAsIs(snapshot(shop)).plan.steps;
    const given = snapshot(shop, START, { previous: told });
    const like = { ...setUpOf(given.index, given.index.shop.works[0]!), id: 'asked', code: 'ASK', editionSize: 3 };
    const asked = planWith(given, [{ kind: 'enquiry', work: like }], doingBy(newId));
    const fresh = asked.snapshot.index.shop.pieces.filter(({ id }) => !given.index.piece.has(id));
    expect([fresh.length, asked.snapshot.index.shop.moulds.length]).toEqual([3, 2]);
    const ends = pieceEnds(asked);
    const day = (of: Map<string, number>, id: string) => Math.floor(of.get(id)! / 1440);
    const before = pieceEnds(planAsIs(given));
    for (const { id } of shop.pieces) expect(day(ends, id)).toBe(day(before, id));
    expect(Math.min(...fresh.map(({ id }) => ends.get(id)!))).toBeGreaterThan(before.get(shop.pieces[0]!.id)! - 1440);
  });

  it('a mould beside others has a name of its own', () => {
    expect(nextName('Lid', [{ name: 'Lid' }, { name: 'Lid 2' }])).toBe('Lid 3');
  });
});

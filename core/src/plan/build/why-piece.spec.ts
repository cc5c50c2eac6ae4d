import { DEFAULT_CALENDARS, DEFAULT_RESOURCES } from '../../records/plan.ts';
import { isOpen } from '../../records/step.ts';
import { applyOps, update } from '../../records/shop.ts';
import { doingBy } from '../../testing/doing.ts';
import { snapshot } from '../../testing/plan-snapshot.ts';
import { START, counter, openStep, playThrough, smallShop } from '../../testing/play.ts';
import { addMinutes } from '../../units/instant.ts';
import { inWords } from '../../units/words.ts';
import { daysLate, pieceEnds, planAsIs, planWith } from './draft-plan.ts';
import { whyPiece } from './why-piece.ts';

const metalShop = DEFAULT_RESOURCES.find(({ kind, room }) => kind === 'people' && room === 'chasing')!;
const pourDays = DEFAULT_CALENDARS.find(({ name }) => name === 'Pour days')!;

describe('why a piece is out when it is', () => {
  it('the chain goes from the first step to the last without a hole, each with what it waited for', () => {
    const newId = counter();
    const shop = smallShop({}, newId);
    const why = whyPiece(snapshot(shop), shop.pieces[0]!.id, doingBy(newId))!;
    expect(why.links[0]!.stepId).toBe(openStep(shop, 'make-mould').id);
    expect(why.links.at(-1)!.end).toBe(why.finish);
    why.links.slice(1).forEach((link, i) => {
      expect(link.waitsFrom).withContext(link.what).toBeLessThanOrEqual(why.links[i]!.end);
      expect(link.start).toBeGreaterThanOrEqual(link.waitsFrom);
      if (link.start > link.waitsFrom) expect(inWords(link.words)).withContext(link.what).not.toBe('');
    });
    const pull = why.links.find(({ what }) => what.startsWith('Pull'))!;
    // The rubber cures a day after it was made.
    expect([pull.hold, inWords(pull.words)]).toEqual([
      'wait',
      jasmine.stringMatching(/^cures 1 day after “Make mould”/),
    ]);
    // Nobody else is in the shop: hands hold nothing.
    expect(why.links.some(({ hold }) => hold === 'hands')).toBeFalse();
  });

  it('a fired shell waits for its pour day, and a pour day more gains what trying it gives', () => {
    const newId = counter();
    const grown = smallShop({}, newId);
    const pieceId = grown.pieces[0]!.id;
    const until = grown.steps.slice(
      0,
      grown.steps.findIndex(({ kind }) => kind === 'pour'),
    );
    const shop = playThrough(
      grown,
      until.map(({ kind }) => kind),
      newId,
    );
    const fired = shop.steps.find(({ kind }) => kind === 'fire')!;
    // The next Friday at noon: the pour day of the week is over.
    const days = (12 - new Date(fired.endedAt!).getUTCDay()) % 7;
    const given = snapshot(shop, addMinutes(fired.endedAt!, days * 1440 + 240));
    const why = whyPiece(given, pieceId, doingBy(newId))!;
    const pour = why.links[0]!;
    expect([pour.stepId, pour.hold]).toEqual([openStep(shop, 'pour').id, 'pour day']);
    expect(why.links.map(({ stepId }) => shop.steps.find(({ id }) => id === stepId)!).every(isOpen)).toBeTrue();
    const [extra] = why.reliefs.filter(({ change }) => change.kind === 'open day' && change.calendarId === pourDays.id);
    // Days before the Thursday, and no more than that can be gained.
    expect(extra!.sooner).toBeGreaterThanOrEqual(720);
    expect(extra!.sooner).toBeLessThanOrEqual(7 * 1440);
    for (const { change, sooner } of why.reliefs) {
      const tried = pieceEnds(planWith(given, [change], doingBy(newId))).get(pieceId)!;
      expect(pieceEnds(planAsIs(given)).get(pieceId)! - tried).toBe(sooner);
    }
  });

  it('says that hands hold it where they do, and what one more of them gains', () => {
    const newId = counter();
    const shop = smallShop({ pieces: 10, sections: [{ areaCm2: 3000, expectedWaxKg: 2 }] }, newId);
    const few = DEFAULT_RESOURCES.map((each) => (each.id === metalShop.id ? { ...each, count: 1 } : each));
    const given = snapshot(shop, START, { resources: few });
    const ends = pieceEnds(planAsIs(given));
    const lastOut = shop.pieces.reduce((one, other) => (ends.get(other.id)! > ends.get(one.id)! ? other : one));
    const why = whyPiece(given, lastOut.id, doingBy(newId))!;
    const waits = why.links.filter(({ hold }) => hold === 'hands');
    expect(waits.map(({ words }) => inWords(words)).join()).toContain('Metal shop: hands are at work on');
    // Of the rooms whose hands are waited for in turn, one gains most.
    const more = why.reliefs.find(({ change }) => change.kind === 'hands')!;
    const named = few.find(({ id }) => more.change.kind === 'hands' && id === more.change.resourceId)!;
    expect(waits.map(({ words }) => inWords(words)).join()).toContain(`${named.name}: hands are at work on`);
    expect(more.sooner).toBeGreaterThanOrEqual(720);
    expect(more.finish).toBe(why.finish - more.sooner);
  });

  it('knows nothing of a piece that is out, and counts how late one is', () => {
    const newId = counter();
    const shop = smallShop({}, newId);
    const [piece] = shop.pieces;
    const out = applyOps(shop, [
      ...shop.steps.map(({ id }) => update('steps', id, { state: 'done', endedAt: START })),
      update('pieces', piece!.id, { state: 'delivered' }),
    ]);
    expect(whyPiece(snapshot(out), piece!.id, doingBy(newId))).toBeUndefined();
    // Due on Tuesday the 2nd, until its midnight: 2880. Half a day after that is a day late.
    const due = snapshot(applyOps(shop, [update('pieces', piece!.id, { dueDate: '2027-03-02' })]));
    expect([2880, 2881, 4320, 4321].map((end) => daysLate(due, piece!.id, end))).toEqual([0, 1, 1, 2]);
  });
});

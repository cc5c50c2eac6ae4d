import type { Id, StepKindCode } from '@kalvet/core';
import { POUR_CHECKS, inWords } from '@kalvet/core';
import { compareProjections } from '../shop/project.ts';
import { TestShop, readings, section } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';

describe('branching', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });

  /** Whatever happened, what is kept ready is what would be worked out anew. */
  afterEach(async () => {
    const { stored, anew } = await compareProjections(shop.store);
    for (const [id, data] of anew) expect(stored.get(id)).withContext(id).toBe(data);
  });

  const ready = async (pieceId: Id, kind: StepKindCode) => {
    await shop.carry(pieceId, kind);
    const step = await shop.open(pieceId, kind);
    if (step.readyAt && step.readyAt > shop.now) shop.now = step.readyAt;
    shop.later(1);
    return step;
  };
  const one = async (given = {}) => {
    const { pieceIds } = await shop.setUp(given);
    await shop.makeMould(pieceIds[0]!);
    return pieceIds[0]!;
  };
  const rules = (body: { error: { refusals?: { rule: string }[]; rule?: string } }) =>
    body.error.refusals?.map(({ rule }) => rule) ?? [body.error.rule];

  describe('trees', () => {
    it('join casts of several pieces; the trees planned for the others fall away', async () => {
      const { pieceIds } = await shop.setUp({ editionSize: 3 });
      await shop.makeMould(pieceIds[0]!);
      for (const id of pieceIds) await shop.carry(id, 'join-tree');
      const form = await shop.form((await ready(pieceIds[0]!, 'join-tree')).id);
      expect(form.casts.map(({ onTree }) => onTree)).toEqual([true, false, false]);
      await shop.must(shop.record(form.step, 'done', { ...readings(form), castIds: form.casts.map(({ id }) => id) }));
      const trees = await Promise.all(
        pieceIds.map(async (id) => (await shop.piece(id)).lanes[0]!.attempts[0]!.tree!.id),
      );
      expect(new Set(trees).size).toBe(1);
      // One dip is a dip for all three.
      await shop.must(shop.done((await ready(pieceIds[1]!, 'coat')).id));
      expect((await shop.steps(pieceIds[2]!)).find(({ kind }) => kind === 'coat')!.state).toBe('done');
      const floor = await shop.floor();
      expect(floor.dips.length).toBe(1);
      expect(floor.dips[0]!.pieceIds.length).toBe(3);
    });

    it('do not take a cast of another alloy, one that is on a joined tree, or one not chased', async () => {
      const otter = await one();
      const mallet = await one({ code: 'MAL', title: 'Mallet', alloyId: 'C90500' });
      await shop.carry(mallet, 'join-tree');
      const step = await ready(otter, 'join-tree');
      const malletCast = (await shop.piece(mallet)).lanes[0]!.attempts[0]!.castId;
      const own = (await shop.form(step.id)).casts[0]!.id;
      const answer = await shop.record(step, 'done', { castIds: [own, malletCast] });
      expect([answer.status, answer.body.error.message]).toEqual([409, jasmine.stringContaining('another alloy')]);
      expect((await shop.form(step.id)).casts.map(({ id }) => id)).toEqual([own]);
    });
  });

  describe('coats', () => {
    it('are refused before their wait, passed with a reason by somebody who may, and flagged when too old', async () => {
      const piece = await one();
      await shop.must(shop.done((await ready(piece, 'coat')).id));
      shop.later(60);
      const second = await shop.open(piece, 'coat');
      const form = await shop.form(second.id);
      const early = await shop.record(second, 'done', readings(form));
      expect([early.status, early.body.error.rule, early.body.error.mayOverride]).toEqual([409, 'min wait', true]);
      expect(early.body.error.message).toContain('2 h too early');
      const helper = await shop.addPerson('Oskar Venn', 'OV', { roles: ['hand'] });
      const boss = shop.person;
      const override = [{ rule: 'min wait', reason: 'fan and dry air' }];
      shop.person = helper;
      expect((await shop.record(second, 'done', readings(form), { override })).body.error.message).toContain(
        'may not decide that',
      );
      shop.person = boss;
      // An override of another rule lets nothing through.
      expect(
        (await shop.record(second, 'done', readings(form), { override: [{ rule: 'order', reason: 'x' }] })).status,
      ).toBe(409);
      const passed = await shop.must(shop.record(second, 'done', readings(form), { override }));
      expect(passed.body.flags[0]).toContain('fan and dry air');
      shop.later(80 * 60);
      const third = await shop.open(piece, 'coat');
      const late = await shop.must(shop.record(third, 'done', readings(await shop.form(third.id))));
      expect(late.body.flags).toEqual(['too old: 3 days 8 h after Dip coat 2 of 6, at most 3 days']);
    });

    it('done is not typed: yesterday can be written up, tomorrow not, and the order of times is kept', async () => {
      const piece = await one();
      const step = await ready(piece, 'coat');
      const given = readings(await shop.form(step.id));
      const ahead = await shop.record(step, 'done', given, {
        endedAt: new Date(Date.parse(shop.now) + 3_600_000).toISOString(),
      });
      expect(ahead.body.error.fields.endedAt).toContain('ahead');
      const before = await shop.record(step, 'done', given, { endedAt: '2027-03-01T09:00:00.000Z' });
      expect(rules(before.body)).toContain('order');
      const endedAt = shop.now;
      shop.later(26 * 60);
      await shop.must(shop.record(step, 'done', given, { endedAt }));
      const line = (await shop.piece(piece)).history[0]!;
      expect([line.at, line.typedAt]).toEqual([endedAt, shop.now]);
      const early = await shop.record(
        await shop.open(piece, 'coat'),
        'done',
        { ...given },
        { startedAt: shop.now, endedAt },
      );
      expect(early.body.error.fields.startedAt).toContain('after the end');
    });

    it('take readings that their definitions allow, and no others', async () => {
      const piece = await one();
      const step = await ready(piece, 'coat');
      const { body } = await shop.record(step, 'done', { slurry: 'mud', roomRh: 140, colour: 'red' });
      expect(Object.keys(body.error.fields).sort()).toEqual([
        'readings.colour',
        'readings.roomRh',
        'readings.slurry',
        'readings.stucco',
      ]);
      const unknown = await shop.record(step, 'perfect', {});
      expect(unknown.body.error.fields.outcome).toContain('no outcome "perfect"');
      const stranger = await shop.record(step, 'done', readings(await shop.form(step.id)), { by: [newId()] });
      expect(stranger.body.error.fields.by).toContain('does not work here');
      const why = await shop.record(step, 'lost', {}, { note: '' });
      expect(why.body.error.fields.note).toContain('say why');
    });
  });

  describe('the kiln', () => {
    it('fires a load of several trees at once, each with its own outcome, and only in a load', async () => {
      const { pieceIds } = await shop.setUp({ editionSize: 2 });
      await shop.makeMould(pieceIds[0]!);
      for (const id of pieceIds) await shop.carry(id, 'fire');
      const step = await ready(pieceIds[0]!, 'fire');
      const other = await ready(pieceIds[1]!, 'fire');
      expect(rules((await shop.record(step, 'done', { profile: 'x', topC: 900 })).body)).toEqual(['through']);
      const trees = [step.carrierId, other.carrierId];
      const twice = await shop.fire([trees[0]!, trees[0]!]);
      expect(rules(twice.body)).toContain('twice');
      const record = {
        startedAt: null,
        endedAt: shop.now,
        by: [shop.person],
        profile: '900 °C',
        topC: 900,
        note: '',
        lost: [{ treeId: trees[1], why: 'cracked at the cup' }],
      };
      await shop.must(shop.send('post', '/api/loads', { id: newId(), treeIds: trees, record }));
      const second = await shop.piece(pieceIds[1]!);
      expect(second.lanes[0]!.attempts.map(({ state, lostWhy }) => [state, lostWhy])).toEqual([
        ['lost', 'cracked at the cup'],
        ['planned', null],
      ]);
      expect((await shop.open(pieceIds[0]!, 'leak-test')).waits).toEqual([]);
      expect(second.history.some(({ text }) => inWords(text).startsWith('Load L-1'))).toBeTrue();
    });

    it('can be planned, and given up; a tree waits in one load only', async () => {
      const piece = await one();
      const step = await ready(piece, 'fire');
      const id = newId();
      await shop.must(shop.send('post', '/api/loads', { id, treeIds: [step.carrierId] }));
      expect(rules((await shop.fire([step.carrierId])).body)).toEqual(['twice']);
      await shop.must(shop.send('post', `/api/loads/${id}/abandon`, { version: 1, reason: 'thermocouple dead' }));
      await shop.must(shop.fire([step.carrierId]));
      expect((await shop.send('post', `/api/loads/${id}/abandon`, { version: 2, reason: 'again' })).status).toBe(409);
    });
  });

  describe('leak, patch, refire, test again', () => {
    it('grows by the outcome; the wet shell is never poured, whoever insists', async () => {
      const piece = await one();
      await ready(piece, 'leak-test');
      const test = await shop.open(piece, 'leak-test');
      await shop.must(shop.record(test, 'patch', { how: 'light', where: 'tip' }, { note: 'hairline at the tip' }));
      expect(inWords((await shop.floor()).questions[0]!.text)).toContain(
        'leaks (hairline at the tip). Patch it, or cast it again?',
      );
      // Decided, it is asked no more, and who decided is on record; to patch it is still to be done.
      const [asked] = (await shop.floor()).questions;
      const [patch] = asked!.answers;
      await shop.must(shop.send('post', `/api${patch!.write!.path}`, patch!.write!.body));
      expect((await shop.floor()).questions).toEqual([]);
      expect(inWords((await shop.piece(piece)).history[0]!.text)).toContain('decided, patch it');
      const again = await shop.send('post', `/api${patch!.write!.path}`, { ...patch!.write!.body, version: 2 });
      expect(again.status).toBe(409);
      await shop.must(shop.done((await ready(piece, 'patch')).id));
      const tree = (await shop.piece(piece)).lanes[0]!.attempts[0]!.tree!;
      expect(tree.wetSince).toBe(shop.now);
      const pour = await shop.pour(tree.id, 'C87300');
      expect(rules(pour.body)).toContain('wet');
      expect(pour.body.error.mayOverride).toBeFalse();
      const { heats } = await shop.get<{ heats: { id: string; version: number }[] }>('/api/heats');
      await shop.must(
        shop.send('post', `/api/heats/${heats[0]!.id}/abandon`, {
          version: heats[0]!.version,
          reason: 'the shell is wet',
        }),
      );
      await shop.carry(piece, 'knock-out');
      expect(
        (await shop.steps(piece))
          .filter(({ kind }) => ['leak-test', 'patch', 'refire', 'pour'].includes(kind))
          .map(({ kind, state }) => `${kind} ${state}`),
      ).toEqual(['leak-test again', 'patch done', 'refire done', 'leak-test done', 'pour done']);
    });
  });

  describe('the heat', () => {
    const plan = (treeIds: readonly { treeId: Id; plannedKg?: number }[], lines: object[] = [], rest = {}) =>
      shop.send('post', '/api/heats', {
        id: newId(),
        alloyId: 'C87300',
        plannedFor: null,
        trees: treeIds,
        chargeLines: lines,
        ...rest,
      });
    const line = { what: 'ingot', alloyId: 'C87300', kg: 20, lot: '', dry: true };

    it('keeps to the crucible: over the mark with a reason, over the rim never; no tree twice, no other alloy', async () => {
      const piece = await one();
      const { carrierId: treeId } = await ready(piece, 'pour');
      expect(rules((await plan([{ treeId }, { treeId }])).body)).toEqual(['twice']);
      const over = await plan([{ treeId, plannedKg: 119 }]);
      expect([rules(over.body), over.body.error.mayOverride]).toEqual([['crucible'], true]);
      expect((await plan([{ treeId, plannedKg: 140 }])).body.error.mayOverride).toBeFalse();
      expect(rules((await plan([{ treeId }], [{ ...line, what: 'returns', alloyId: null }])).body)).toEqual(['alloy']);
      expect(rules((await plan([{ treeId }], [{ ...line, what: 'addition', alloyId: null, kg: 0.3 }])).body)).toEqual([
        'alloy',
      ]);
      const other = await plan([{ treeId }], [], { alloyId: 'C90500' });
      expect(rules(other.body)).toEqual(['alloy']);
      await shop.must(
        plan([{ treeId, plannedKg: 119 }], [], {
          override: [{ rule: 'crucible', reason: 'new liner, measured' }],
        }),
      );
      expect(rules((await plan([{ treeId }])).body)).toEqual(['twice']);
    });

    it('is poured only with a dry charge and a confirmed crew, and remembers who confirmed', async () => {
      const piece = await one();
      const { carrierId: treeId } = await ready(piece, 'pour');
      const id = newId();
      await shop.must(
        shop.send('post', '/api/heats', {
          id,
          alloyId: 'C87300',
          plannedFor: null,
          trees: [{ treeId }],
          chargeLines: [{ ...line, dry: false }],
        }),
      );
      const pour = (version: number, override?: object[]) =>
        shop.send('post', `/api/heats/${id}/pour`, {
          version,
          treeId,
          outcome: 'poured',
          startedAt: null,
          endedAt: shop.now,
          by: [shop.person],
          readings: { pouredKg: 12 },
          note: '',
          ...(override ? { override } : {}),
        });
      expect(rules((await pour(1)).body)).toEqual(['wet']);
      expect(
        rules(
          (
            await shop.send('post', `/api/heats/${id}/crew`, {
              version: 1,
              crew: [{ role: 'lead', personId: shop.person, deputyId: null }],
              signs: 'spoken',
              checks: POUR_CHECKS,
              coverConfirmed: true,
            })
          ).body,
        ),
      ).toEqual(['wet']);
      await shop.must(
        shop.send('put', `/api/heats/${id}`, {
          version: 1,
          plannedFor: null,
          trees: [{ treeId }],
          chargeLines: [line],
        }),
      );
      expect(rules((await pour(2)).body)).toEqual(['crew']);
      expect(
        (
          await shop.send('post', `/api/heats/${id}/crew`, {
            version: 2,
            crew: [{ role: 'lead', personId: shop.person, deputyId: null }],
            signs: 'spoken',
            checks: POUR_CHECKS,
            coverConfirmed: false,
          })
        ).status,
      ).toBe(400);
      await shop.must(
        shop.send('post', `/api/heats/${id}/crew`, {
          version: 2,
          crew: [{ role: 'lead', personId: shop.person, deputyId: null }],
          signs: 'spoken',
          checks: POUR_CHECKS,
          coverConfirmed: true,
        }),
      );
      await shop.must(pour(3));
      expect(
        (await shop.piece(piece)).history.some(({ text }) =>
          inWords(text).includes('crew and cover confirmed by Ines Marlow'),
        ),
      ).toBeTrue();
      const left = await shop.send('post', `/api/heats/${id}/finish`, {
        version: 4,
        endedAt: shop.now,
        by: [shop.person],
        pigKg: 9.5,
        note: '',
      });
      expect(left.body.error.fields.pigKg).toContain('8.0 kg');
      await shop.must(
        shop.send('post', `/api/heats/${id}/finish`, {
          version: 4,
          endedAt: shop.now,
          by: [shop.person],
          pigKg: 7,
          note: '',
        }),
      );
      const [rows] = await shop.store.db.query(
        "SELECT h.pigKg, s.readings FROM step s JOIN heat h ON h.id = s.heatId WHERE s.kind = 'melt'",
      );
      // The heat's own row holds what was pigged; the step keeps nothing of it.
      expect((rows as { pigKg: number }[])[0]!.pigKg).toBe(7);
      expect(JSON.stringify((rows as { readings: unknown }[])[0]!.readings)).not.toContain('7');
    });

    it('short goes to the inspection, run out is cast again, not poured waits for another heat', async () => {
      for (const [outcome, next, attempt] of [
        ['short', 'knock-out', 1],
        ['run out', 'pull', 2],
        ['not poured', 'pour', 1],
      ] as const) {
        const code = outcome.slice(0, 3).toUpperCase().trim();
        const piece = await one({ code, title: outcome });
        const { carrierId } = await ready(piece, 'pour');
        await shop.must(shop.pour(carrierId, 'C87300', outcome));
        const { piece: now } = await shop.piece(piece);
        expect([now.next[0]!.kind, now.sections[0]!.attempt]).withContext(outcome).toEqual([next, attempt]);
      }
      expect((await shop.floor()).questions.map(({ text }) => inWords(text))).toContain(
        'short 1/1 poured short. Weld it up, or cast it again?',
      );
    });

    it('given up, lets its trees go', async () => {
      const piece = await one();
      const { carrierId: treeId } = await ready(piece, 'pour');
      const id = newId();
      await shop.must(
        shop.send('post', '/api/heats', {
          id,
          alloyId: 'C87300',
          plannedFor: null,
          trees: [{ treeId }],
          chargeLines: [line],
        }),
      );
      await shop.must(shop.send('post', `/api/heats/${id}/abandon`, { version: 1, reason: 'furnace out' }));
      await shop.must(shop.pour(treeId, 'C87300'));
    });

    it('keeps the pour weight of its waxes, bars and cup', async () => {
      const piece = await one();
      const form = await shop.form((await ready(piece, 'pour')).id);
      // wax 0.75 kg × 8.36 ÷ 0.93, two 12 mm bars of 180 mm, 296 cm³ of middle cup at 70 %, 0.3 kg of spill
      const wanted = (0.75 * 8.36) / 0.93 + 2 * 18 * 1.44 * 8.36e-3 + 295.96 * 0.7 * 8.36e-3 + 0.3;
      expect(form.companions[0]!.pour!.value).toBeCloseTo(wanted, 2);
    });
  });

  describe('chasing', () => {
    it('weighs casts and returns, welds and inspects again, recasts as attempt 2', async () => {
      const piece = await one();
      const knock = await ready(piece, 'knock-out');
      const form = await shop.form(knock.id);
      await shop.must(shop.record(knock, 'done', { castKg: { [form.casts[0]!.id]: 6.38 }, returnsKg: 5.5 }));
      expect((await shop.piece(piece)).piece.weight).toEqual(
        jasmine.objectContaining({ value: 6.38, source: 'measured' }),
      );
      const milder = await shop.record(await ready(piece, 'inspect'), 'accept', {
        defects: [{ code: 'gas', where: '', mm: null, verdict: 'weld' }],
      });
      expect([milder.status, (milder.body as { error: { fields: object } }).error.fields]).toEqual([
        400,
        { outcome: 'a defect on the list says weld' },
      ]);
      await shop.must(
        shop.record(
          await ready(piece, 'inspect'),
          'weld',
          { defects: [{ code: 'gas', where: 'ear', mm: 2, verdict: 'weld' }] },
          { note: 'pinholes' },
        ),
      );
      await shop.must(shop.record(await ready(piece, 'weld'), 'done', { filler: '1.6 mm' }));
      await shop.must(
        shop.record(
          await ready(piece, 'inspect'),
          'recast',
          { defects: [{ code: 'misrun', where: 'tail', mm: null, verdict: 'recast' }] },
          { note: 'tail missing' },
        ),
      );
      const { piece: now, lanes } = await shop.piece(piece);
      expect(now.sections[0]).toEqual(jasmine.objectContaining({ attempt: 2, room: 'mould' }));
      expect(lanes[0]!.attempts[0]).toEqual(
        jasmine.objectContaining({ state: 'lost', lostRoom: 'chasing', lostWhy: 'tail missing' }),
      );
      await shop.carry(piece, 'delivered');
      expect((await shop.piece(piece)).piece.state).toBe('delivered');
    });

    it('a section broken after it was joined is cut off, cast again and joined anew', async () => {
      const piece = await one({ sections: [section('body'), section('wing')] });
      await shop.carry(piece, 'patina');
      const wing = (await shop.piece(piece)).lanes[1]!.attempts[0]!;
      await shop.must(
        shop.send('post', `/api/casts/${wing.castId}/lose`, {
          version: wing.version,
          room: 'chasing',
          why: 'crack under load',
          at: shop.now,
        }),
      );
      const { pieceSteps } = await shop.piece(piece);
      expect(pieceSteps.slice(0, 4).map(({ kind, state }) => `${kind} ${state}`)).toEqual([
        'join-section done',
        'chase-metal done',
        'join-section planned',
        'chase-metal planned',
      ]);
      await shop.carry(piece, 'delivered');
      expect((await shop.piece(piece)).piece.state).toBe('delivered');
    });

    it('the final inspection can send back to patina or to chasing', async () => {
      const piece = await one();
      await shop.must(
        shop.record(await ready(piece, 'final-inspection'), 'to patina', {}, { note: 'blotch on the flank' }),
      );
      await shop.carry(piece, 'delivered');
      expect((await shop.steps(piece)).filter(({ kind }) => kind === 'patina').length).toBe(2);
    });
  });

  describe('approval, hold, cancel', () => {
    it('"first" holds the others back from sprueing, not from wax', async () => {
      const { pieceIds } = await shop.setUp({ editionSize: 2, approval: 'first' });
      await shop.makeMould(pieceIds[0]!);
      await shop.carry(pieceIds[1]!, 'join-tree');
      const step = await shop.open(pieceIds[1]!, 'join-tree');
      const refused = await shop.record(step, 'done', readings(await shop.form(step.id)));
      expect(refused.body.error.message).toContain('comes after Approve wax');
      await shop.carry(pieceIds[0]!, 'approve-wax');
      await shop.must(shop.done((await shop.open(pieceIds[0]!, 'approve-wax')).id));
      await shop.must(shop.done(step.id));
    });

    it('nothing is recorded on a piece on hold until the hold is taken off', async () => {
      const piece = await one();
      const step = await ready(piece, 'chase-wax');
      const { version } = (await shop.piece(piece)).piece;
      await shop.must(
        shop.send('post', `/api/pieces/${piece}/hold`, {
          version,
          reason: 'client undecided',
          until: '2027-04-01',
        }),
      );
      const held = await shop.done(step.id);
      expect([rules(held.body), held.body.error.message]).toEqual([
        ['hold'],
        jasmine.stringContaining('client undecided'),
      ]);
      expect((await shop.floor()).works[0]!.pieces[0]!.state).toBe('hold');
      await shop.must(shop.send('post', `/api/pieces/${piece}/release`, { version: version + 1 }));
      await shop.must(shop.done(step.id));
    });

    it('a cancelled piece leaves the floor; its record stays', async () => {
      const piece = await one();
      await shop.carry(piece, 'join-tree');
      const { version } = (await shop.piece(piece)).piece;
      await shop.must(shop.send('post', `/api/pieces/${piece}/cancel`, { version, reason: 'order withdrawn' }));
      expect((await shop.floor()).works[0]!.pieces).toEqual([]);
      const now = await shop.piece(piece);
      expect(now.piece.state).toBe('cancelled');
      expect(inWords(now.history[0]!.text)).toContain('order withdrawn');
      expect(
        (await shop.send('post', `/api/pieces/${piece}/cancel`, { version: version + 1, reason: 'x' })).status,
      ).toBe(409);
    });

    it('a due date that has passed is late, from the day after', async () => {
      const piece = await one({ dueDate: '2027-03-02' });
      await shop.must(shop.done((await shop.open(piece, 'pull')).id));
      const late = async () => (await shop.floor()).works[0]!.pieces[0]!.late;
      shop.now = '2027-03-02T23:30:00.000Z';
      expect(await late()).toBeFalse();
      shop.now = '2027-03-03T00:30:00.000Z';
      expect(await late()).toBeTrue();
    });
  });

  describe('other routes', () => {
    it('block: invested, one slow load, drawn the day before, poured within a day and a half of it or flagged', async () => {
      const piece = await one({ method: 'block' });
      const { carrierId } = await ready(piece, 'pour');
      shop.later(62 * 60);
      const poured = await shop.must(shop.pour(carrierId, 'C87300'));
      expect(poured.body.flags[0]).toContain('at most 1 day 12 h');
      await shop.carry(piece, 'delivered');
      expect((await shop.steps(piece)).some(({ kind }) => kind === 'coat')).toBeFalse();
    });

    it('direct: no mould; a lost wax leaves the piece to a decision, and modelling it again is one', async () => {
      const { pieceIds } = await shop.setUp({ method: 'direct' });
      const piece = pieceIds[0]!;
      await shop.must(shop.record(await shop.open(piece, 'model-wax'), 'lost', {}, { note: 'sagged in the sun' }));
      expect(inWords((await shop.floor()).questions[0]!.text)).toContain('Model it again, or give it up?');
      const { version } = (await shop.piece(piece)).piece;
      await shop.must(
        shop.send('post', `/api/pieces/${piece}/model-again`, { version, reason: 'the artist wants it' }),
      );
      await shop.carry(piece, 'delivered');
      expect((await shop.piece(piece)).piece.state).toBe('delivered');
    });

    it('steps put in by hand hold up what follows and say why', async () => {
      const piece = await one();
      await shop.carry(piece, 'patina');
      const body = { kind: 'elsewhere', carrier: 'piece', carrierId: piece, why: 'blasting at the yard' };
      await shop.must(shop.send('post', '/api/steps', body));
      const { piece: now } = await shop.piece(piece);
      expect(now.next.map(({ kind, room }) => [kind, room])).toEqual([['elsewhere', 'chasing']]);
      expect((await shop.send('post', '/api/steps', { ...body, kind: 'dry' })).body.error.fields.kind).toContain(
        'not done to a piece',
      );
    });

    it('a mould is in use from fill to take-out', async () => {
      const { pieceIds } = await shop.setUp({ editionSize: 2 });
      await shop.makeMould(pieceIds[0]!);
      const first = await shop.form((await shop.open(pieceIds[0]!, 'pull')).id);
      const second = await shop.form((await shop.open(pieceIds[1]!, 'pull')).id);
      const mouldId = first.moulds[0]!.id;
      await shop.must(
        shop.send('post', `/api/steps/${first.step.id}/start`, {
          version: 1,
          startedAt: shop.now,
          readings: { mouldId },
        }),
      );
      expect((await shop.floor()).mouldsInUse).toBe(1);
      shop.later(5);
      const busy = await shop.record(second.step, 'done', readings(second));
      expect([rules(busy.body), busy.body.error.mayOverride]).toEqual([['mould in use'], false]);
      const running = await shop.form(first.step.id);
      await shop.must(shop.record(running.step, 'done', readings(running)));
      shop.later(5);
      await shop.must(shop.record(second.step, 'done', readings(second)));
    });
  });
});

import { CAUTIONS } from '../records/cautions.ts';
import { KINDS, kindOf } from './kinds.ts';
import { ROUTES, ROUTE_VERSION } from './routes.ts';

const codes = new Set(KINDS.map(({ code }) => code));

describe('what the rooms bring', () => {
  it('is each kind once, with outcomes and readings that are told apart', () => {
    expect(codes.size).toBe(KINDS.length);
    for (const { code, outcomes, readings } of KINDS) {
      expect(new Set(outcomes.map((outcome) => outcome.code)).size)
        .withContext(code)
        .toBe(outcomes.length);
      expect(new Set(readings.map(({ key }) => key)).size)
        .withContext(code)
        .toBe(readings.length);
      expect(outcomes.length).withContext(code).toBeGreaterThan(0);
    }
  });

  it('names no step, outcome, choice or caution that nobody knows', () => {
    for (const kind of KINDS) {
      const outcomes = new Set(kind.outcomes.map(({ code }) => code));
      for (const { inserts = [] } of kind.outcomes)
        for (const grown of inserts) expect(codes.has(grown)).withContext(`${kind.code} → ${grown}`).toBeTrue();
      for (const { key, outcomes: only = [], choices, start } of kind.readings) {
        expect(only.filter((code) => !outcomes.has(code)))
          .withContext(`${kind.code}.${key}`)
          .toEqual([]);
        if (choices && start !== undefined) expect(choices.map(({ code }) => code)).toContain(String(start));
      }
      expect(kind.cautions.filter((caution) => !(caution in CAUTIONS)))
        .withContext(kind.code)
        .toEqual([]);
    }
  });

  it('asks why wherever something was lost or has to be done again', () => {
    for (const { code, outcomes } of KINDS)
      for (const { effect, why, code: outcome } of outcomes)
        if (effect === 'lost' || outcome === 'again') expect(why).withContext(`${code} ${outcome}`).toBeTrue();
  });

  it('keeps a wait possible: nothing must wait longer than it may', () => {
    for (const { code, minWait, maxWait } of KINDS)
      expect(maxWait === null || maxWait >= minWait)
        .withContext(code)
        .toBeTrue();
  });

  it('dries what it wets: after every wetting a route has a drying or a firing before the pour', () => {
    for (const { version, methods } of ROUTES)
      for (const [method, { tree }] of Object.entries(methods)) {
        const way = tree.map((place) => kindOf(typeof place === 'string' ? place : place.coats));
        const pour = way.findIndex(({ through }) => through === 'heat');
        const wet = way.findIndex(({ wets }) => wets?.({}) === true);
        const dry = way.findIndex(({ dries }, place) => dries === true && place > wet);
        expect(wet >= 0 && wet < dry && dry < pour)
          .withContext(`${method}, version ${version}`)
          .toBeTrue();
      }
  });

  it('is refused by name where nobody knows it', () => {
    expect(() => kindOf('enamel')).toThrowError(RangeError, /enamel/);
  });
});

describe('the routes', () => {
  it('are numbered in order, the newest for new works, and name only kinds that there are', () => {
    expect(ROUTES.map(({ version }) => version)).toEqual(ROUTES.map((_, i) => i + 1));
    expect(ROUTE_VERSION).toBe(ROUTES.length);
    for (const { mould, methods, approval, join, finishing } of ROUTES) {
      const named = [
        ...mould,
        approval,
        join,
        ...Object.values(finishing).flat(),
        ...Object.values(methods).flatMap(({ wax, tree, metal }) => [
          ...wax,
          ...tree.map((place) => (typeof place === 'string' ? place : place.coats)),
          ...metal,
        ]),
      ];
      expect(named.filter((code) => !codes.has(code))).toEqual([]);
    }
  });

  it('keep their carriers: waxes on casts, layers on trees, finishing on pieces', () => {
    for (const { methods, finishing } of ROUTES) {
      for (const { wax, tree, metal } of Object.values(methods)) {
        expect(wax.map((code) => kindOf(code).carrier)).toEqual(wax.map(() => 'cast'));
        expect(new Set(tree.map((place) => kindOf(typeof place === 'string' ? place : place.coats).carrier))).toEqual(
          new Set(['tree']),
        );
        expect(metal.map((code) => kindOf(code).carrier)).toEqual(metal.map(() => 'cast'));
      }
      for (const way of Object.values(finishing))
        expect(way.map((code) => kindOf(code).carrier)).toEqual(way.map(() => 'piece'));
    }
  });
});

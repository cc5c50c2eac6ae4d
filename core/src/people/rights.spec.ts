import type { Person } from '../records/people.ts';
import { ROLES } from '../records/rights.ts';
import { MAY_DO, RIGHTS, mayAnswer, mayDo, mayPass, mayRead, maySee, sightsOf, whoMay } from './rights.ts';

const somebody = (rest: Partial<Pick<Person, 'roles' | 'rooms' | 'gates'>> = {}) => ({
  roles: [],
  rooms: [],
  gates: [],
  ...rest,
});

describe('who may do what', () => {
  it('nobody may do anything, and a manager everything but what the planner and the drying’s clock do by themselves', () => {
    for (const right of RIGHTS) {
      expect(mayDo(null, right)).withContext(right).toBeFalse();
      expect(mayDo(somebody(), right)).withContext(right).toBeFalse();
      expect(mayDo(somebody({ roles: ['manager'] }), right))
        .withContext(right)
        .toBe(right !== 'take plan' && right !== 'air moved');
    }
  });

  it('hands and leads work in the rooms of their own; who has none works in all; the office in none', () => {
    const hand = somebody({ roles: ['hand'], rooms: ['shell', 'burnout'] });
    expect([mayDo(hand, 'record step', 'shell'), mayDo(hand, 'record step', 'wax')]).toEqual([true, false]);
    expect(mayDo(somebody({ roles: ['hand'] }), 'record step', 'patina')).toBeTrue();
    expect(mayDo(hand, 'insert step', 'shell')).toBeFalse();
    const lead = somebody({ roles: ['lead'], rooms: ['wax'] });
    expect([mayDo(lead, 'insert step', 'wax'), mayDo(lead, 'insert step', 'shell')]).toEqual([true, false]);
    const office = somebody({ roles: ['office'] });
    expect([mayDo(office, 'save order'), mayDo(office, 'record step')]).toEqual([true, false]);
  });

  it('a pour lead leads the pour and the kiln before it, whatever rooms they have beside', () => {
    const tomas = somebody({ roles: ['pour lead'], rooms: ['chasing'] });
    expect(['pour', 'plan heat', 'confirm crew'].map((right) => mayDo(tomas, right as 'pour'))).toEqual([
      true,
      true,
      true,
    ]);
    expect([mayDo(tomas, 'record step', 'burnout'), mayDo(tomas, 'record step', 'chasing')]).toEqual([true, false]);
    // Somebody who is both works in both.
    const both = somebody({ roles: ['pour lead', 'hand'], rooms: ['chasing'] });
    expect(mayDo(both, 'record step', 'chasing')).toBeTrue();
  });

  it('rules are passed by those they belong to, decisions answered for by role or by name', () => {
    const tomas = somebody({ roles: ['pour lead'] });
    expect([mayPass(tomas, 'crew'), mayPass(tomas, 'min wait'), mayPass(tomas, 'wet')]).toEqual([true, false, false]);
    const oskar = somebody({ roles: ['hand'], gates: ['leak test'] });
    expect([mayAnswer(oskar, 'leak test'), mayAnswer(oskar, 'final inspection')]).toEqual([true, false]);
    expect(mayAnswer(null, 'leak test')).toBeFalse();
  });

  it('money, clients and recipes are seen apart, and a visitor only looks', () => {
    expect(sightsOf(somebody({ roles: ['office'] }))).toEqual(['clients', 'money']);
    expect(sightsOf(somebody({ roles: ['hand'] }))).toEqual(['recipes']);
    const visitor = somebody({ roles: ['visitor'] });
    expect([maySee(visitor, 'clients'), mayRead(visitor, 'floor'), mayRead(visitor, 'orders')]).toEqual([
      false,
      true,
      false,
    ]);
    expect(RIGHTS.some((right) => mayDo(visitor, right))).toBeFalse();
  });

  it('names those who may', () => {
    expect(whoMay(MAY_DO['change settings'])).toBe('a production manager');
    expect(whoMay(['manager', 'lead', 'pour lead'])).toBe('a production manager, room lead or pour lead');
    expect(Object.values(MAY_DO).every((roles) => roles.every((role) => ROLES.includes(role)))).toBeTrue();
  });
});

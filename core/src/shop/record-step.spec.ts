import type { RecordStep } from '../records/route.ts';
import type { Shop } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { after, doingBy, said, told } from '../testing/doing.ts';
import { START, counter, openStep, playThrough, readingsFor, smallShop } from '../testing/play.ts';
import { addMinutes } from '../units/instant.ts';
import { expectedOf } from './expected.ts';
import { indexShop } from './index-shop.ts';
import { recordMany, recordStep } from './record-step.ts';

const LATER = addMinutes(START, 400 * 1440);
const given = (readings: object, rest: Partial<RecordStep> = {}): RecordStep => ({
  version: 1,
  outcome: 'done',
  startedAt: null,
  endedAt: LATER,
  by: ['p-1'],
  readings: readings as RecordStep['readings'],
  note: '',
  ...rest,
});

describe('recording', () => {
  const newId = counter();
  const doing = doingBy(newId, { now: LATER });
  const MADE = ['make-mould', 'pull'] as const;
  const record = (shop: Shop, step: Step, readings: object, rest: Partial<RecordStep> = {}, overrides: string[] = []) =>
    recordStep(indexShop(shop), step, given(readings, rest), {
      ...doing,
      overrides: overrides.map((rule) => ({ rule, reason: 'confirmed' })),
    });

  it('asks once about a wax far from its plan, and takes it when it is so', () => {
    const shop = playThrough(smallShop({}, newId), MADE, newId);
    const step = openStep(shop, 'chase-wax');
    // 0.75 kg is planned; 2.3 kg is more than three times that.
    const asked = record(shop, step, { waxKg: 2.3 });
    expect(said(asked)).toEqual(['unlikely: Wax weighs 2.3 kg, but 0.750 kg is planned. Is it so?']);
    const taken = after(shop, record(shop, step, { waxKg: 2.3 }, {}, ['unlikely']));
    expect(taken.steps.find(({ id }) => id === step.id)!.flags).toEqual([
      'unlikely, and confirmed: Wax weighs 2.3 kg, but 0.750 kg is planned',
    ]);
    expect(said(record(shop, step, { waxKg: 0.8 }))).toEqual([]);
  });

  it('refuses what cannot be, whoever insists: more wax or bronze than its surface holds, casts heavier than the pour', () => {
    const shop = playThrough(smallShop({}, newId), MADE, newId);
    // 1600 cm², a tenth more let pass, as a ball of wax of 1 g/cm³: 6.9 kg.
    expect(said(record(shop, openStep(shop, 'chase-wax'), { waxKg: 7 }, {}, ['unlikely']))).toEqual([
      'impossible: 7.000 kg of wax: Section 1 weighs 6.9 kg at most, solid through and through.',
    ]);
    const coats = Array.from({ length: 6 }, () => 'coat' as const);
    let cast = playThrough(shop, ['chase-wax', 'join-tree', ...coats, 'fire', 'leak-test', 'pour'], newId);
    const heat = { treeId: cast.trees[0]!.id, pouredKg: 9, order: 1, outcome: 'poured' };
    cast = { ...cast, pourings: [{ ...heat, id: 'q', heatId: 'h' } as unknown as Shop['pourings'][number]] };
    const step = openStep(cast, 'knock-out');
    const [castId] = cast.casts.map(({ id }) => id);
    // 9 kg poured, 3 % and 0.3 kg for scales and sand: 9.57 kg.
    expect(said(record(cast, step, { castKg: { [castId!]: 9.6 } }))).toEqual([
      'impossible: The casts weigh 9.60 kg together, but 9.0 kg was poured into the tree.',
    ]);
    expect(said(record(cast, step, { castKg: { [castId!]: 9.5 } }))).toEqual([]);
  });

  it('expects the hours of the same work on other pieces, and before them the estimate, widely', () => {
    const shop = smallShop({ pieces: 3 }, newId);
    const chases = shop.steps.filter(({ kind }) => kind === 'chase-metal');
    const hours = (at: Shop) => expectedOf(indexShop(at), chases[2]!).find(({ key }) => key === 'hours')!;
    // 1600 cm² × 15 h/m² = 2.4 h, but 6.4 kg by 1.5 h × kg^⅔ is 5.2 h: asked beyond six times that.
    expect(hours(shop).high).toBeCloseTo(1.5 * (0.75 * 8.54) ** (2 / 3) * 6, 0);
    const logged = [8, 10].map((each, i) => ({ ...chases[i]!, state: 'done' as const, readings: { hours: each } }));
    const known = { ...shop, steps: shop.steps.map((step) => logged.find(({ id }) => id === step.id) ?? step) };
    expect([hours(known).low, hours(known).high]).toEqual([3, 27]);
  });

  it('keeps which readings were taken over, and tells it', () => {
    const shop = playThrough(smallShop({}, newId), ['make-mould'], newId);
    const step = openStep(shop, 'pull');
    const act = record(shop, step, readingsFor(indexShop(shop), step), { taken: ['potC'] });
    expect(told(shop, act)).toContain('pot 82 °C (taken over)');
    expect(after(shop, act).steps.find(({ id }) => id === step.id)!.taken).toEqual(['potC']);
  });

  describe('a tray', () => {
    const tray = (shop: Shop, steps: readonly Step[], own: readonly object[], rest: object = {}) =>
      recordMany(
        indexShop(shop),
        steps,
        {
          ...given({}),
          ...rest,
          steps: steps.map(({ id }, i) => ({ id, version: 1, readings: own[i] as Record<string, unknown> })),
        },
        doing,
      );
    const waxes = () => {
      const shop = playThrough(smallShop({ pieces: 2 }, newId), [...MADE, 'pull'], newId);
      return { shop, steps: shop.steps.filter(({ kind }) => kind === 'chase-wax') };
    };

    it('gives each what is its own, and says so', () => {
      const { shop, steps } = waxes();
      const act = tray(shop, steps, [{ waxKg: 0.71 }, { waxKg: 0.78 }]);
      expect(after(shop, act).weights.map(({ kg }) => kg)).toEqual([0.71, 0.78]);
      expect(told(shop, act)).toBe('Chase and weigh wax on OTT 1 (wax weighs 0.710 kg), OTT 2 (wax weighs 0.780 kg)');
    });

    it('asks at the one that it is about, by its place and name, and writes none', () => {
      const { shop, steps } = waxes();
      const act = tray(shop, steps, [{ waxKg: 0.71 }, { waxKg: 780 }]);
      expect(act.ops).toEqual([]);
      expect(act.refusals.map(({ asks }) => [asks?.field, asks?.instead?.value])).toEqual([
        [undefined, undefined],
        ['steps.1.readings.waxKg', 0.78],
      ]);
      expect(said(act)[1]).toContain('OTT 2. Wax weighs 780 kg');
    });
  });
});

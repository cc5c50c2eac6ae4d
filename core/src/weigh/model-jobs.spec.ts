// What the model's page asks: parts that add up, limits, where to cut, thin and thick places, windows.
import { inWords } from '../units/words.ts';
import { ball, box, lump, moved, stlBytes, together, turned } from '../testing/shapes.ts';
import { MeshFault } from '../mesh/fault.ts';
import type { ShopFits } from '../records/model.ts';
import { NOT_KEPT, runModelJob } from './jobs.ts';

const FITS: ShopFits = {
  ...{ crucibleUsableKg: 120, pigReserveKg: 2, liftLimitKg: 25 },
  ...{ tankAcrossMm: 750, tankDeepMm: 950, kilnAcrossMm: 1000, kilnHighMm: 1000, mouldLongMm: 1400 },
};
const source = (shape: Parameters<typeof stlBytes>[0], scale = 1) => ({
  bytes: stlBytes(shape),
  name: 'a.stl',
  unit: 'mm' as const,
  scale,
  ...('document' in globalThis ? { wasmUrl: '/manifold.wasm' } : {}),
});
const judged = { wallMm: 5, alloyId: 'C87300', fits: FITS };
/** Two balls joined by a bar that is thin in its middle, 1,640 mm long. */
const DUMBBELL = turned([
  [0, -820],
  [90, -740],
  [120, -640],
  [90, -540],
  [30, -300],
  [18, 40],
  [30, 300],
  [90, 540],
  [120, 640],
  [90, 740],
  [0, 820],
]);

const ROD = turned(
  [
    [0, 0],
    [4.8, 2],
    [4.8, 90],
    [0, 92],
  ],
  24,
);

describe('a model looked at for its page', () => {
  it('is measured at the wax’s size, with the wax of each wall', async () => {
    const { measured, mesh, standIn } = await runModelJob('look', source(box(100, 100, 100), 2));
    expect(measured.sizeMm.map(Math.round)).toEqual([200, 200, 200]);
    expect([measured.toWax, measured.watertight, Math.round(measured.volumeCm3!)]).toEqual([2, true, 8000]);
    // 200³ − 190³ = 1,141 cm³.
    const at5 = measured.curve.find(({ wallMm }) => wallMm === 5)!;
    expect(at5.volumeCm3 / 1141).toBeCloseTo(1, 2);
    expect(measured.thickestMm).toBeCloseTo(200, 0);
    expect([mesh.positions.length, standIn.length]).toEqual([24, 36]);
    // A plate of 6 mm is solid from a wall of 3 on.
    const plate = await runModelJob('look', source(box(100, 6, 100)));
    expect(
      plate.measured.curve.filter(({ wallMm }) => wallMm >= 4).every(({ volumeCm3 }) => volumeCm3 === 60),
    ).toBeTrue();
  });

  it('is kept for further questions, and asked for again where it is gone', async () => {
    const model = { ...source(box(100, 60, 40)), keep: 'hash 1' };
    await runModelJob('look', model);
    const again = { ...model, bytes: new Uint8Array() };
    expect((await runModelJob('ways', again))[0]!.heightMm).toBeCloseTo(40, 6);
    await expectAsync(runModelJob('ways', { ...again, keep: 'hash 2' })).toBeRejectedWithError(MeshFault, NOT_KEPT);
    await expectAsync(runModelJob('ways', { ...again, scale: 3 })).toBeResolved();
    // The file is held, so another size needs no sending.
    expect((await runModelJob('ask', again)).sides.map(Math.round)).toEqual([100, 60, 40]);
  });
});

describe('a cut model', () => {
  it('has parts that add up to the whole at every wall', async () => {
    const shape = lump(60, 40, 24);
    const whole = await runModelJob('look', source(shape));
    const planes = [
      { normal: [0, 0, 1], offsetMm: 20 },
      { normal: [1, 0.3, 0], offsetMm: -15 },
    ] as const;
    const wallsMm = [3, 8];
    const parts = await runModelJob('cut', { ...source(shape), ...judged, planes, wallsMm });
    expect(parts.length).toBe(4);
    const sum = (of: (part: (typeof parts)[number]) => number) => parts.reduce((total, part) => total + of(part), 0);
    expect(sum(({ volumeCm3 }) => volumeCm3) / whole.measured.volumeCm3!).toBeCloseTo(1, 3);
    expect(sum(({ areaCm2 }) => areaCm2) / whole.measured.areaCm2).toBeCloseTo(1, 3);
    for (const { wallMm, volumeCm3 } of whole.measured.curve.filter((point) => point.wallMm < 12)) {
      const cut = sum(({ curve }) => curve.find((point) => point.wallMm === wallMm)!.volumeCm3);
      expect(Math.abs(cut / volumeCm3 - 1))
        .withContext(`wall ${wallMm} mm`)
        .toBeLessThan(0.001);
    }
  });

  it('tells each part’s seam, opening and wax: half a ball is open at its cut', async () => {
    const planes = [{ normal: [0, 0, 2], offsetMm: 0 }] as const;
    const [half] = await runModelJob('cut', { ...source(ball(100, 64)), ...judged, planes });
    expect(half!.seamM).toBeCloseTo((2 * Math.PI * 100) / 1000, 2);
    expect(half!.sizeMm.map(Math.round)).toEqual([200, 200, 100]);
    // Within the wall there is a disc of R 95 to dry through, 100 deep.
    expect(half!.opening!.acrossMm).toBeCloseTo(190, -0.5);
    expect(half!.opening!.deepMm).toBeCloseTo(100, 0);
    // Half of 4π/3·(100³ − 95³) mm³.
    const shell = ((2 / 3) * Math.PI * (100 ** 3 - 95 ** 3)) / 1000;
    expect(half!.curve.find(({ wallMm }) => wallMm === 5)!.volumeCm3 / shell).toBeCloseTo(1, 2);
    expect(half!.findings.find(({ limit }) => limit === 'drying')!.share).toBeLessThan(1);
  });

  it('is held against the shop: crucible, tank, kiln, mould room and lift, in words', async () => {
    const [part] = await runModelJob('cut', {
      ...source(box(900, 500, 500, [-450, -250, -250])),
      ...judged,
      planes: [{ normal: [1, 0, 0], offsetMm: 440 }],
    });
    const over = part!.findings.filter(({ share }) => share > 1).map(({ limit }) => limit);
    // 890 × 500 × 500 stands 890 high and 707 across: the tank of 750 has no room round it; 5 mm of it are over the lift limit.
    expect(over).toContain('tank');
    expect(over).toContain('lift');
    expect(over).not.toContain('kiln');
    const words = part!.findings.map(({ says }) => inWords(says)).join('\n');
    expect(words).toContain('stands 890 mm high and 707 mm across; the tank is 950 mm deep and 750 mm wide');
  });
});

describe('where to cut', () => {
  it('is proposed at the narrow place, with as few planes as do', async () => {
    const planes = await runModelJob('suggest', { ...source(DUMBBELL), ...judged });
    expect(planes.length).toBe(1);
    expect(planes[0]!.normal).toEqual([0, 0, 1]);
    // The bar is thinnest at 40.
    expect(planes[0]!.offsetMm).toBeCloseTo(40, -2);
    const parts = await runModelJob('cut', { ...source(DUMBBELL), ...judged, planes });
    expect(parts.every(({ findings }) => findings.every(({ stops, share }) => !stops || share <= 1))).toBeTrue();
  });

  it('is nowhere, where it fits whole', async () => {
    expect(await runModelJob('suggest', { ...source(ball(100)), ...judged })).toEqual([]);
  });
});

describe('thin and thick metal', () => {
  it('is found where the body is thinner than the wall, and where it is solid beyond it', async () => {
    // A ball of R 60 cast at 5 mm is hollow; beside it a plate of 2 mm and a rod of 9.6 mm, both solid.
    const shape = together(ball(60, 48), moved(box(60, 2, 60), [100, 0, 0]), moved(ROD, [-120, 0, 0]));
    const { thin, thick, metalMm, bodyMm } = await runModelJob('thickness', { ...source(shape), wallMm: 5 });
    expect(thin.length).toBe(1);
    expect(thin[0]!.mm).toBeCloseTo(2, 1);
    expect(thin[0]!.x).toBeGreaterThan(99);
    expect(thick.length).toBe(1);
    expect(thick[0]!.mm).toBeCloseTo(9.6, 0);
    expect(thick[0]!.x).toBeLessThan(-100);
    // Behind the ball's surface the body is 120 thick, the metal 5.
    expect([Math.round(Math.max(...bodyMm)), Math.round(metalMm[0]!)]).toEqual([120, 5]);
  });

  it('wants windows where a hollow is far from every opening', async () => {
    const long = source(box(100, 100, 600, [-50, -50, 0]));
    const ask = (openings: readonly (readonly [number, number, number])[]) =>
      runModelJob('thickness', { ...long, wallMm: 5, openings, acrossMm: 60 });
    // Open at the foot air reaches 180 mm; 600 mm of it want two windows more.
    const { windows } = await ask([[0, 0, 0]]);
    expect(windows.length).toBeGreaterThan(0);
    expect(windows[0]!.z).toBeGreaterThan(400);
    const closed = await ask([]);
    expect(closed.windows.length).toBeGreaterThan(windows.length - 1);
    const solid = await runModelJob('thickness', { ...source(box(8, 8, 600)), wallMm: 5 });
    expect(solid.windows).toEqual([]);
  });

  it('refuses a wall of nothing and an alloy that there is not', async () => {
    await expectAsync(runModelJob('thickness', { ...source(ball(30)), wallMm: 0 })).toBeRejectedWithError(
      MeshFault,
      /wall/,
    );
    const question = { ...source(ball(30)), ...judged, alloyId: 'C1', planes: [] };
    await expectAsync(runModelJob('cut', question)).toBeRejectedWithError(MeshFault, /no alloy/);
  });
});

describe('ways up', () => {
  it('that differ are compared, the one with the least trapped air first', async () => {
    const ways = await runModelJob('ways', source(box(200, 100, 5)));
    expect(ways.length).toBeGreaterThan(1);
    expect(ways[0]!.heightMm).toBeCloseTo(5, 3);
    const cosine = ways[0]!.up.reduce((sum, each, k) => sum + each * ways[1]!.up[k]!, 0);
    expect(Math.abs(cosine)).toBeLessThan(Math.cos((35 * Math.PI) / 180) + 1);
  });
});

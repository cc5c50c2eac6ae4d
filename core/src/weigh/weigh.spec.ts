// A model's volumes handed to wax, metal and shrinkage.
import { inWords } from '../units/words.ts';
import { box, bytesOf, reversed, stlBytes, together } from '../testing/shapes.ts';
import { glbOf, gltfOf, objText } from '../testing/model-files.ts';
import { Cancelled, MeshFault } from '../mesh/fault.ts';
import { runModelJob } from './jobs.ts';
import type { JobsPort, WorkerLike } from './worker.ts';
import { ModelWorker, serveModelJobs } from './worker.ts';

const CUBE = { bytes: stlBytes(box(100, 100, 100)), name: 'cube.stl', unit: 'mm' as const };

describe('a model weighed', () => {
  it('gives wax and metal of exactly its dimensions, and what is cast from such a wax', async () => {
    const report = await runModelJob('measure', { ...CUBE, wallsMm: [5], alloyId: 'C90500' });
    // 1,000 cm³ of wax at 0.93 and tin bronze at 8.72 g/cm³; the cast is smaller by 1.4 % in each direction.
    expect(report.solid!.waxKg).toBeCloseTo(0.93, 6);
    expect(report.solid!.metalKg).toBeCloseTo(8.72, 6);
    expect(report.solid!.figures.castFromWax.value).toBeCloseTo(8.72 * 0.986 ** 3, 6);
    // 1,000 − 90³ = 271 cm³; the error goes on into the weights.
    const [hollow] = report.hollow;
    expect(hollow!.volumeCm3 / 271).toBeCloseTo(1, 2);
    expect(hollow!.figures.metal.plusMinus! / hollow!.metalKg).toBeCloseTo(hollow!.errorCm3 / hollow!.volumeCm3, 9);
    expect(inWords(hollow!.figures.wax.inWords)).toContain('a wall of 5 mm');
    expect(hollow!.figures.castFromWax.plusMinus! / hollow!.figures.castFromWax.value).toBeGreaterThan(0.03);
    // Condensation silicone 0.45 %, wax 1.1 %, tin bronze 1.4 %.
    expect(report.originalScale.value).toBeCloseTo(1 / (0.9955 * 0.989 * 0.986), 9);
  });

  it('says none where nothing is enclosed, and whether it was inside out', async () => {
    const sheet = {
      bytes: bytesOf('v 0 0 0\nv 9 0 0\nv 0 9 1\nf 1 2 3'),
      name: 'a.obj',
      unit: 'mm' as const,
      wallsMm: [3],
    };
    const report = await runModelJob('measure', sheet);
    expect([report.volumeCm3, report.hollow.length, report.watertight, 'solid' in report]).toEqual([
      null,
      0,
      false,
      false,
    ]);
    const turned = await runModelJob('measure', { ...CUBE, bytes: stlBytes(reversed(box(100, 100, 100))) });
    expect([turned.insideOut, Math.round(turned.volumeCm3!)]).toEqual([true, 1000]);
    await expectAsync(runModelJob('measure', { ...CUBE, alloyId: 'C1' })).toBeRejectedWithError(
      MeshFault,
      /no alloy C1; there are C87300/,
    );
  });

  it('keeps units, axes and scale apart: the file’s own go first, up is the format’s', async () => {
    const glb = { bytes: glbOf(gltfOf(box(0.3, 0.2, 0.1))), name: 'a.glb' };
    const report = await runModelJob('measure', { ...glb, heightMm: 400 });
    // Up is y: 0.2 m become 400 mm, all else with it.
    expect(report.scale).toBeCloseTo(2, 5);
    expect(report.bboxMm.max.map(Math.round)).toEqual([600, 400, 200]);
    expect((await runModelJob('traps', glb)).up).toEqual([0, 1, 0]);
    expect(Math.round((await runModelJob('traps', glb)).heightMm)).toBe(200);
    const inches = await runModelJob('traps', {
      bytes: bytesOf(objText(box(4, 3, 2))),
      name: 'a.obj',
      unit: 'in',
      up: [1, 0, 0],
    });
    expect(inches.heightMm).toBeCloseTo(4 * 25.4, 6);
    expect(inches.traps[0]!.x).toBeCloseTo(4 * 25.4, 6);
  });

  it('finds the best way up, cuts, and maps the thickness', async () => {
    const plate = { bytes: stlBytes(box(200, 5, 100)), name: 'plate.stl', unit: 'mm' as const };
    expect((await runModelJob('traps', { ...plate, best: true })).heightMm).toBeCloseTo(5, 3);
    const map = await runModelJob('thickness', { ...plate, wallMm: 4 });
    expect(map.bodyMm.length).toBe(map.mesh.positions.length / 3);
    const hollow = stlBytes(together(box(100, 100, 100), reversed(box(40, 40, 40, [30, 30, 30]))));
    const both = await runModelJob('thickness', { ...plate, bytes: hollow, wallMm: 4 });
    expect(both.mesh.triangles.length).toBe(3 * 24);
  });
});

/** Both runtimes have it, but no type of core's says so. */
const copied = <T>(value: T): T => (globalThis as unknown as { structuredClone(value: T): T }).structuredClone(value);

describe('jobs in a worker', () => {
  /** Both sides of the channel in one place; what goes over it is copied as between threads. */
  function paired(lost = false): { worker: ModelWorker; started: () => number; ended: () => number } {
    let [started, ended] = [0, 0];
    const start = (): WorkerLike => {
      started++;
      let [toServer, toClient]: ((message: unknown) => void)[] = [() => undefined, () => undefined];
      const port: JobsPort = {
        post: (message) => void Promise.resolve().then(() => toClient!(copied(message))),
        listen: (hear) => (toServer = hear),
      };
      if (!lost) serveModelJobs(port);
      return {
        post: (message) => void Promise.resolve().then(() => toServer!(copied(message))),
        listen: (hear) => (toClient = hear),
        end: () => void ended++,
      };
    };
    return { worker: new ModelWorker(start), started: () => started, ended: () => ended };
  }

  it('are answered one after another, faults by name', async () => {
    const { worker, started } = paired();
    const cut = { ...CUBE, bytes: CUBE.bytes.subarray(0, 200) };
    const [good, bad] = await Promise.allSettled([worker.run('measure', CUBE), worker.run('measure', cut)]);
    expect(good.status).toBe('fulfilled');
    expect(bad.status === 'rejected' && bad.reason instanceof MeshFault).toBeTrue();
    expect(started()).toBe(1);
  });

  it('that are cancelled end the worker, the others are asked again', async () => {
    const { worker, started, ended } = paired(true);
    let stop: (() => void) | undefined;
    const first = worker.run('measure', CUBE, undefined, (cancel) => (stop = cancel));
    const second = worker.run('measure', CUBE);
    stop!();
    await expectAsync(first).toBeRejectedWith(jasmine.any(Cancelled) as unknown as Cancelled);
    expect([started(), ended()]).toEqual([2, 1]);
    worker.end();
    await expectAsync(second).toBeRejectedWith(jasmine.any(Cancelled) as unknown as Cancelled);
  });
});

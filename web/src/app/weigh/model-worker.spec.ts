// The browser's worker as the screens will use it: a file's bytes in, figures out.
import { DEFAULT_SETTINGS } from '@kalvet/core';
import { Cancelled, MeshFault } from '@kalvet/core/mesh/index';
import { ball, box, lump, stlBytes, together } from '../../../../core/src/testing/shapes.ts';
import { kernelUrl, modelWorker } from './model-worker';

describe('the worker that measures models, in the browser', () => {
  it('answers with the figures, says how far it is, and names what is wrong', async () => {
    const worker = modelWorker();
    const news: string[] = [];
    const source = { bytes: stlBytes(ball(50, 96, 48)), name: 'ball.stl', unit: 'mm' as const };
    const report = await worker.run('measure', { ...source, wallsMm: [5] }, (_, what) => news.push(what));
    // 4/3·π·50³ = 523.6 cm³, the mesh a little less.
    expect(report.volumeCm3).toBeGreaterThan(521);
    expect(report.hollow[0]!.metalKg).toBeCloseTo(report.hollow[0]!.volumeCm3 * 8.36e-3, 9);
    expect(news).toContain('measuring the wall');
    await expectAsync(
      worker.run('measure', { bytes: source.bytes.subarray(0, 300), name: 'cut.stl' }),
    ).toBeRejectedWith(jasmine.any(MeshFault) as unknown as MeshFault);
    worker.end();
  });

  it('loads the geometry kernel where shells overlap, and cuts', async () => {
    const worker = modelWorker();
    const bytes = stlBytes(together(box(100, 100, 100), box(100, 100, 100, [50, 50, 50])));
    const source = { bytes, name: 'two.stl', unit: 'mm' as const, wasmUrl: kernelUrl() };
    // Two cubes of 1,000 cm³ that share one of 125.
    expect((await worker.run('measure', source)).volumeCm3).toBeCloseTo(1875, 3);
    const sections = await worker.run('cut', {
      ...{ ...source, wallMm: 5, alloyId: 'C87300', fits: DEFAULT_SETTINGS },
      planes: [{ normal: [0, 0, 1], offsetMm: 25 }],
    });
    expect(sections.map(({ volumeCm3 }) => Math.round(volumeCm3))).toEqual([1625, 250]);
    worker.end();
  });

  it('stops a job at once and does the others all the same', async () => {
    const worker = modelWorker();
    const long = { bytes: stlBytes(lump(150, 300, 150)), name: 'long.stl', unit: 'mm' as const, wallsMm: [0.2] };
    let stop: (() => void) | undefined;
    const stopped = worker.run('measure', long, undefined, (cancel) => (stop = cancel));
    const other = worker.run('measure', { bytes: stlBytes(box(10, 10, 10)), name: 'box.stl', unit: 'mm' });
    stop!();
    await expectAsync(stopped).toBeRejectedWith(jasmine.any(Cancelled) as unknown as Cancelled);
    expect((await other).volumeCm3).toBeCloseTo(1, 9);
    worker.end();
  });
});

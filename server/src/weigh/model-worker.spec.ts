// The server's thread as its services will use it, bundled as the build does it.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { Cancelled, MeshFault } from '@kalvet/core/mesh/index';
import { box, lump, stlBytes, together } from '../../../core/src/testing/shapes.ts';
import { modelWorker } from './model-worker.ts';

describe('the thread that measures models', () => {
  // Within the server's folder, since packages are looked up from where the program lies; not among the sources, which
  // other checks read at the same time.
  const program = join(import.meta.dirname, `../../dist/test-weigher-${process.pid}.mjs`);
  const start = () => modelWorker(pathToFileURL(program));
  beforeAll(() =>
    build({
      entryPoints: [join(import.meta.dirname, 'model.worker.ts')],
      outfile: program,
      bundle: true,
      platform: 'node',
      format: 'esm',
      packages: 'external',
      alias: { '@kalvet/core': join(import.meta.dirname, '../../../core/src') },
      logLevel: 'warning',
    }),
  );
  afterAll(() => rmSync(program));

  it('answers, loads the kernel by itself, and names what is wrong with a file', async () => {
    const worker = start();
    const bytes = stlBytes(together(box(100, 100, 100), box(100, 100, 100, [50, 50, 50])));
    const question = { bytes, name: 'two.stl', unit: 'mm' as const };
    // Two cubes of 1,000 cm³ that share one of 125; silicon bronze weighs 8.36 g/cm³.
    const report = await worker.run('measure', question);
    expect(report.solid!.metalKg).toBeCloseTo(1.875 * 8.36, 6);
    const asked = worker.run('traps', { ...question, bytes: bytes.subarray(0, 200) });
    await expectAsync(asked).toBeRejectedWithError(MeshFault, /two\.stl: the file says 24 triangles and holds 2/);
    worker.end();
  });

  it('ends a job in the middle', async () => {
    const worker = start();
    const question = { bytes: stlBytes(lump(150, 200, 100)), name: 'long.stl', unit: 'mm' as const, wallsMm: [0.3] };
    let stop: (() => void) | undefined;
    const heard = new Promise<void>((hear) => {
      worker
        .run(
          'measure',
          question,
          () => hear(),
          (cancel) => (stop = cancel),
        )
        .catch((error: unknown) => expect(error).toBeInstanceOf(Cancelled));
    });
    await heard;
    stop!();
    worker.end();
  });
});

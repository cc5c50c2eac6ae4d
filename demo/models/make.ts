// Makes the demo's models and the pictures of them: `npm run demo:files`. Everything comes from the figures in this folder.
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Pourable, bestWayUp, loadKernel, openModel, write3mf } from '../../core/src/mesh/index.ts';
import type { Closed, Kernel } from '../../core/src/mesh/index.ts';
import { renderMesh } from '../../core/src/mesh/picture/render.ts';
import type { View } from '../../core/src/mesh/picture/render.ts';
import { silhouetteOf } from '../../core/src/mesh/picture/silhouette.ts';
import { PATTERN_WAX_DENSITY } from '../../core/src/materials/waxes.ts';
import { RUBBERS } from '../../core/src/mould/original-scale.ts';
import { CURVE_WALLS_MM } from '../../core/src/wax/volume-curve.ts';
import { runModelJob } from '../../core/src/weigh/jobs.ts';
import sharp from 'sharp';
import { FIGURES } from './figures.ts';
import type { FigureName } from './figures.ts';
import { PICTURES, MODELS } from './list.ts';
import type { Shade } from './list.ts';

const FOLDER = process.argv[2] ?? 'demo/files';
/** Red, green and blue of what a piece is made of on its way. */
const COLOURS: Readonly<Record<Shade, readonly [number, number, number]>> = {
  clay: [168, 150, 128],
  wax: [118, 138, 74],
  shell: [224, 217, 203],
  metal: [178, 132, 78],
  brown: [96, 64, 40],
  verdigris: [78, 116, 100],
  black: [58, 54, 50],
};
const WAX = (1 - RUBBERS[1].shrinkage) * (1 - 0.011);
const [WIDE, HIGH] = [1000, 750];

/** A figure as a mesh whose wax at its wall weighs what the section's plan says. */
async function modelOf(
  kernel: Kernel,
  name: FigureName,
  { waxKg, wallMm, edgeMm }: { waxKg: number; wallMm: number; edgeMm: number },
) {
  const { depth, box } = FIGURES[name];
  const mesh = kernel.surface(depth, box, edgeMm);
  let size = 1;
  // The wax of a wall grows about as the square of the size.
  for (let round = 0; round < 4; round++) {
    const [point] = (await runModelJob('look', { ...source(name, scaled(mesh, size)), scale: WAX, wallsMm: [wallMm] }))
      .measured.curve;
    size *= Math.sqrt(waxKg / ((point!.volumeCm3 * PATTERN_WAX_DENSITY) / 1000));
  }
  return scaled(mesh, size);
}

const scaled = ({ positions, triangles }: Closed, by: number): Closed => ({
  positions: positions.map((each) => Math.round(each * by * 1000) / 1000),
  triangles,
});
const source = (name: string, mesh: Closed) => ({ bytes: write3mf([{ name, ...mesh }]), name: `${name}.3mf` });

/** A picture of a mesh on a bench: a light ground, a soft shadow under it. */
async function photo(
  mesh: Closed,
  view: View,
  shade: Shade,
  crop?: readonly [number, number, number],
): Promise<Buffer> {
  const pixels = renderMesh(mesh, view, { width: WIDE, height: HIGH, colour: COLOURS[shade] });
  const figure = { raw: { width: WIDE, height: HIGH, channels: 4 as const } };
  const cut = await sharp(Buffer.from(pixels.data.buffer), figure).png().toBuffer();
  // The shadow is the figure itself, flat and blurred.
  const shadow = await sharp(cut)
    .ensureAlpha()
    .linear([0, 0, 0, 0.5], [30, 26, 20, 0])
    .resize(WIDE, Math.round(HIGH * 0.12), { fit: 'fill' })
    .blur(9)
    .toBuffer();
  const ground = Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDE}" height="${HIGH}"><defs><linearGradient id="g" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#cfc8bb"/><stop offset="0.74" stop-color="#e4ded2"/><stop offset="0.76" stop-color="#b9b0a1"/><stop offset="1" stop-color="#a79d8d"/></linearGradient></defs><rect width="100%" height="100%" fill="url(#g)"/></svg>`,
  );
  // It stands on the ground, however low it is.
  const down = Math.max(0, Math.round(HIGH * 0.955) - lowest(pixels.data));
  const whole = await sharp(ground)
    .composite([
      { input: shadow, top: Math.round(HIGH * 0.885), left: 14 },
      {
        input: await sharp(cut)
          .extract({ left: 0, top: 0, width: WIDE, height: HIGH - down })
          .toBuffer(),
        top: down,
        left: 0,
      },
    ])
    .jpeg({ quality: 80 })
    .toBuffer();
  if (!crop) return whole;
  const [x, y, share] = crop;
  return sharp(whole)
    .extract({
      left: Math.round((x - share / 2) * WIDE),
      top: Math.round((y - share / 2) * HIGH),
      width: Math.round(share * WIDE),
      height: Math.round(share * HIGH),
    })
    .resize(WIDE, HIGH)
    .jpeg({ quality: 80 })
    .toBuffer();
}

/** The last row of a picture that has metal in it. */
function lowest(data: Uint8ClampedArray): number {
  for (let at = data.length - 1; at > 0; at -= 4) if (data[at]! > 40) return Math.floor(at / 4 / WIDE);
  return 0;
}

mkdirSync(FOLDER, { recursive: true });
const kernel = await loadKernel();
const told: Record<string, unknown> = {};
const meshes = new Map<FigureName, Closed>();
for (const { figure, outline, kept, ...plan } of MODELS) {
  const mesh = await modelOf(kernel, figure, plan);
  meshes.set(figure, mesh);
  const given = source(figure, mesh);
  if (kept) writeFileSync(join(FOLDER, given.name), given.bytes);
  const { measured } = await runModelJob('look', { ...given, scale: WAX, wallsMm: CURVE_WALLS_MM });
  const { body } = await openModel({ ...given, scale: WAX });
  const way = bestWayUp(new Pourable(body));
  const glyph = silhouetteOf(renderMesh(mesh, outline, { width: 240, height: 240 }));
  told[figure] = { measured, way, glyph };
  console.log(figure, measured.triangles, measured.sizeMm.map(Math.round).join(' × '), `${given.bytes.length} bytes`);
}
for (const { name, figure, view, shade, crop } of PICTURES)
  writeFileSync(join(FOLDER, `${name}.jpg`), await photo(meshes.get(figure)!, view, shade, crop));
writeFileSync(join(FOLDER, 'models.json'), `${JSON.stringify(told, null, 1)}\n`);

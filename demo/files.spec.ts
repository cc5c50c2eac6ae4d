// The demo's models: what is kept beside them is what their files come to.
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { DEFAULT_SETTINGS, waxFromCurve } from '@kalvet/core';
import type { ModelMeasured } from '@kalvet/core';
import { openModel } from '../core/src/mesh/index.ts';
import { WORKS } from './foundry.ts';
import { MODELS, PICTURES } from './models/list.ts';

const FOLDER = join(import.meta.dirname, 'files');
const told = JSON.parse(readFileSync(join(FOLDER, 'models.json'), 'utf8')) as Record<
  string,
  { measured: ModelMeasured; glyph: string; way: { heightMm: number; traps: readonly object[] } }
>;

describe('the demo’s models', () => {
  for (const { figure } of MODELS.filter(({ kept }) => kept))
    it(`come to what is kept beside them: ${figure}`, async () => {
      const { measured } = told[figure]!;
      const bytes = new Uint8Array(readFileSync(join(FOLDER, `${figure}.3mf`)));
      const { body, findings } = await openModel({ bytes, name: `${figure}.3mf`, scale: measured.toWax });
      expect([findings.openEdges, findings.shells]).toEqual([0, 1]);
      expect(body.volumeMm3! / 1000).toBeCloseTo(measured.volumeCm3!, 3);
      expect(body.areaMm2 / 100).toBeCloseTo(measured.areaCm2, 3);
    });

  it('weigh at their wall what their works plan, within a hundredth', () => {
    for (const [code, figure] of [
      ['OTT', 'otter'],
      ['HND', 'hound'],
      ['PIL', 'pilot'],
    ] as const) {
      const { sections } = WORKS.find((work) => work.code === code)!;
      const plan = sections.reduce((sum, { expectedWaxKg }) => sum + expectedWaxKg!, 0);
      expect(waxFromCurve(told[figure]!.measured.curve, sections[0]!.wallMm).value / plan)
        .withContext(figure)
        .toBeCloseTo(1, 2);
    }
  });

  it('fit tank, kiln and pit as they are poured, and stand for their works in few letters', () => {
    for (const { glyph, way } of Object.values(told)) {
      expect(glyph).toMatch(/^M[\d. LMz]+$/);
      expect(glyph.length).toBeLessThan(901);
      expect(way.traps.length).toBeGreaterThan(0);
    }
    expect(told['otter']!.way.heightMm).toBeLessThan(DEFAULT_SETTINGS.tankDeepMm);
  });

  it('have every picture that the demo hangs, and no other', () => {
    const kept = readdirSync(FOLDER).filter((name) => name.endsWith('.jpg'));
    expect(kept.sort()).toEqual(PICTURES.map(({ name }) => `${name}.jpg`).sort());
  });
});

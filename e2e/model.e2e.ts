import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { AttachmentsAnswer, ModelsAnswer, WorkAnswer } from '@kalvet/core';
import { volumeAt } from '@kalvet/core';
import type { ModelAnswers } from '@kalvet/core/weigh/index';
import { By } from 'selenium-webdriver';
import type { Driver } from 'selenium-webdriver/chrome.js';
import { stlBytes, turned } from '../core/src/testing/shapes.ts';
import { Browser } from './browser.ts';
import { Kalvet, ROOT, until } from './kalvet.ts';
import { Prepared } from './prepare.ts';

/** A camera that stands in for the tablet's: Chromium's own, which shows a moving picture. */
const CAMERA = ['--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream'];
/** A figure with a narrow waist, 300 units high. */
const FIGURE = turned(
  [
    [0, -150],
    [34, -130],
    [46, -80],
    [30, -30],
    [14, 10],
    [30, 50],
    [40, 100],
    [24, 140],
    [0, 150],
  ],
  48,
);

describe('the sculpture on screen', () => {
  let kalvet: Kalvet;
  let browser: Browser;
  let shop: Prepared;
  let folder: string;
  let file: string;

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'kalvet-model-'));
    file = join(folder, 'figure.stl');
    writeFileSync(file, stlBytes(FIGURE));
    kalvet = await Kalvet.start('kalvet_model');
    browser = await Browser.open(kalvet.url, [1280, 800], CAMERA);
    shop = await Prepared.open(kalvet, 'Ines Marlow', 'IM');
    await kalvet.choose(browser, 'IM');
  });
  afterAll(async () => {
    await browser?.close();
    await kalvet?.stop();
    rmSync(folder, { recursive: true });
  });

  const idle = () =>
    until(
      'the worker to be done',
      async () => (await browser.driver.findElements(By.css('.busy'))).length === 0,
      120_000,
    );
  const aside = async () => (await (await browser.find('aside')).getText()).replace(/\s+/g, ' ');
  const says = (words: string) =>
    until(`"${words}" beside the model`, async () => (await aside()).includes(words), 60_000);
  const network = (offline: boolean) =>
    (browser.driver as Driver).setNetworkConditions({
      offline,
      latency: 0,
      download_throughput: -1,
      upload_throughput: -1,
    });

  it('becomes sections with weights, vents and an outline on the Floor', async () => {
    const { id } = await shop.setUp('FIG', 'Standing Figure', 3);
    await browser.go(`/works/${id}/model`);
    await (await browser.find('[data-test=model-file]')).sendKeys(file);
    await says('The file does not say its unit');
    await browser.press('A size is wanted');
    // As tall as a person: it fits neither tank nor mould room.
    await browser.type('#bronze-mm', '1700');
    await browser.click('[data-test=measure]');
    await idle();
    await says('Surface');
    await browser.press('Cuts');
    await browser.click('[data-test=suggest]');
    await idle();
    await says('Every part fits the shop.');
    const names = await browser.driver.findElements(By.css('input.name'));
    expect(names.length).toBeGreaterThan(1);
    await names[0]!.clear();
    await names[0]!.sendKeys('Lower');
    await browser.click('[data-test=keep-model]');
    await until(
      'the model to be kept',
      async () => (await kalvet.get<ModelsAnswer>(`/works/${id}/models`)).models.length === 1,
    );
    await browser.click('[data-test=make-sections]');
    await browser.click('[data-test=make-really]');
    await until(
      'the sections to be planned by the model',
      async () => {
        const { sections } = await kalvet.get<ModelsAnswer>(`/works/${id}/models`);
        return sections.length === names.length && sections.every(({ estimates }) => estimates.length === 1);
      },
      120_000,
    );
    const made = await kalvet.get<ModelsAnswer>(`/works/${id}/models`);
    expect(made.sections[0]!.name).toBe('Lower');
    // The figures are the command line's: the same planes, the same size.
    const { planes, sizing, measured } = made.models[0]!;
    const args = planes.flatMap(({ normal, offsetMm }) => ['--plane', [...normal, offsetMm].join(',')]);
    const { stdout: told } = await promisify(execFile)(
      process.execPath,
      [
        join(ROOT, 'cli/kalvet.mjs'),
        ...['cut', file, '--unit', sizing.unit, '--scale', String(measured.toWax), '--wall', '5', '--json', ...args],
      ],
      { maxBuffer: 1e8 },
    );
    const { parts } = JSON.parse(told) as { parts: ModelAnswers['cut'] };
    parts.forEach(({ areaCm2, curve }, i) => {
      expect(Math.round(areaCm2)).toBe(made.sections[i]!.areaCm2!);
      const own = volumeAt(made.sections[i]!.estimates[0]!.curve!, 5).volumeCm3;
      expect(own / volumeAt(curve, 5).volumeCm3).toBeCloseTo(1, 9);
    });
    // Each of them stands on the Work page with the wax that the model gives it.
    const { sections } = await kalvet.get<WorkAnswer>(`/works/${id}`);
    expect(sections.every(({ plannedWax }) => plannedWax!.plusMinus! / plannedWax!.value < 0.01)).toBeTrue();

    await browser.press('Way up');
    await browser.click('[data-test=compare-ways]');
    await idle();
    await browser.click('[data-test=way]');
    await browser.click('[data-test=keep-way]');
    await until(
      'the way up to be kept',
      async () => (await kalvet.get<ModelsAnswer>(`/works/${id}/models`)).sections[0]!.wayUp !== null,
    );
    expect((await kalvet.get<ModelsAnswer>(`/works/${id}/models`)).sections[0]!.wayUp!.vents.length).toBeGreaterThan(0);
    await browser.click('[data-test=silhouette]');
    await until('the outline on the Floor', async () => {
      const { works } = await kalvet.floor();
      return works.find((work) => work.id === id)!.glyph.startsWith('M');
    });
  });

  it('says what a file is that only calls itself a model', async () => {
    const { id } = await shop.setUp('PDF', 'Paper', 1);
    const paper = join(folder, 'drawing.stl');
    writeFileSync(paper, '%PDF-1.7 a drawing');
    await browser.go(`/works/${id}/model`);
    await (await browser.find('[data-test=model-file]')).sendKeys(paper);
    const alert = await browser.find('.left [role=alert]');
    await until('the words', async () => (await alert.getText()) === 'drawing.stl is a PDF, not a model.');
  });

  it('shows a crack where it was found: from the camera, through a gap in the network, to the piece', async () => {
    const { pieceIds } = await shop.setUp('CRA', 'Cracked', 1);
    const [piece] = pieceIds as [string];
    await shop.carry(piece, ({ kind }) => kind === 'join-tree', 90);
    await browser.go(`/pieces/${piece}`);
    // At the step that was done: its record, and what was seen then.
    await browser.click('[data-step=chase-wax]');
    const record = 'kv-step-record kv-files ';
    await browser.click(`${record}[data-test=camera]`);
    await until('the camera to see', async () => (await browser.find(`${record}[data-test=take]`)).isEnabled());
    await network(true);
    await browser.click(`${record}[data-test=take]`);
    await until('the upload to wait', async () =>
      (await (await browser.find(`${record}.coming`)).getText()).includes('no connection'),
    );
    await network(false);
    await until(
      'the picture to be there',
      async () => (await browser.driver.findElements(By.css(`${record}.strip img`))).length === 1,
      60_000,
    );
    await browser.click(`${record}[data-test=camera-done]`);
    await browser.click(`${record}.strip a`);
    await browser.click('[data-test=mark]');
    const image = await browser.find('.stage img');
    await browser.driver.actions().move({ origin: image, x: 30, y: -40 }).click().perform();
    await browser.type('#pin-0', 'hairline, 12 mm');
    await browser.click('[data-test=save-picture]');
    await until('the place to be marked', async () => {
      const { attachments } = await kalvet.get<AttachmentsAnswer>(`/attachments?subject=piece&id=${piece}`);
      return attachments[0]?.pins[0]?.words === 'hairline, 12 mm';
    });
    await browser.go(`/pieces/${piece}`);
    await until('the strip of the piece', async () => (await (await browser.find('kv-files .pins')).getText()) === '1');
    const strip = await browser.find('kv-files .strip a');
    expect(await strip.getAttribute('aria-label')).toContain('Chase and weigh wax');
  });
});

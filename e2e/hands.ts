import { POUR_CHECKS } from '@kalvet/core';
import { until } from './kalvet.ts';
import type { Kalvet } from './kalvet.ts';
import type { Browser } from './browser.ts';
import { asTyped } from './browser.ts';

/** Ticks all that is forgotten before a pour. */
export async function lookedAt(browser: Browser): Promise<void> {
  for (const check of POUR_CHECKS) await browser.tick(`check-${check}`);
}

/** A person at the Piece page, who records one step after another in the panel, each at the time it was done. */
export class Hands {
  constructor(
    readonly browser: Browser,
    readonly kalvet: Kalvet,
    readonly pieceId: string,
    /** The moment of the play; each step moves it to when it may be done. */
    public clock: string,
  ) {}

  private later(minutes: number, from = this.clock): string {
    return new Date(Date.parse(from) + minutes * 60_000).toISOString();
  }

  /** Opens the panel of the next step of this name and gives the time at which it is done. */
  async open(name: string, on = ''): Promise<string> {
    const next = await until(`"${name}" as next step`, async () => {
      const { piece } = await this.kalvet.piece(this.pieceId);
      return piece.next.find((step) => step.name.startsWith(name) && step.on.includes(on));
    });
    const ready = next.readyAt && next.readyAt > this.clock ? next.readyAt : this.clock;
    this.clock = this.later(2, ready);
    await this.browser.go(`/pieces/${this.pieceId}`);
    await this.browser.click(`[data-test=record-next][aria-label="Record ${next.name} ${next.on}"]`);
    await this.browser.find('[data-test=record], [data-test=save-heat]');
    return this.clock;
  }

  async doneAt(): Promise<void> {
    await this.browser.type('#done-at', asTyped(this.clock));
  }

  /** Records a step: outcome, readings by their key, and why. */
  async record(
    name: string,
    given: {
      on?: string;
      outcome?: string;
      numbers?: Record<string, string>;
      picks?: Record<string, string>;
      why?: string;
    } = {},
  ): Promise<void> {
    await this.open(name, given.on);
    if (given.outcome) await this.browser.press(given.outcome);
    for (const [key, words] of Object.entries(given.picks ?? {})) await this.browser.pick(`reading-${key}`, words);
    for (const [key, text] of Object.entries(given.numbers ?? {})) await this.browser.type(`#reading-${key}`, text);
    await this.browser.takeOver();
    await this.doneAt();
    if (given.why) await this.browser.type('#note', given.why);
    await this.browser.click('[data-test=record]');
    await this.browser.gone('kv-step-panel');
  }

  async coats(count: number): Promise<void> {
    for (let coat = 1; coat <= count; coat++) await this.record(coat === count ? 'Seal coat' : `Dip coat ${coat}`);
  }

  async fire(name = 'Dewax and fire'): Promise<void> {
    await this.record(name, { numbers: { topC: '905' } });
  }

  /** Plans a heat of one tree, confirms crew and cover, pours, and ends the heat. */
  async pour(): Promise<void> {
    await this.open('Preheat and pour');
    for (const box of await this.browser.driver.findElements({ css: 'input[id^=dry-]' }))
      await this.browser.tick((await box.getAttribute('id')) ?? '');
    await this.browser.click('[data-test=save-heat]');
    await lookedAt(this.browser);
    await this.browser.tick('heat-cover');
    await this.browser.click('[data-test=confirm-crew]');
    await this.browser.gone('[data-test=confirm-crew]');
    await this.browser.takeOver();
    await this.doneAt();
    await this.browser.click('[data-test=record]');
    await this.browser.type('#pig', '2');
    await this.browser.click('[data-test=finish-heat]');
    await this.browser.gone('kv-step-panel');
  }

  /** Weighs the casts of a tree at the knock-out. */
  async knockOut(kg: readonly string[]): Promise<void> {
    await this.open('Knock out');
    const fields = await until('cast fields', async () => {
      const found = await this.browser.driver.findElements({ css: '[id^=reading-castKg]' });
      return found.length === kg.length && found;
    });
    for (const [i, field] of fields.entries()) await this.browser.type(`#${await field.getAttribute('id')}`, kg[i]!);
    await this.doneAt();
    await this.browser.click('[data-test=record]');
    await this.browser.gone('kv-step-panel');
  }
}

import type { Instant } from '@kalvet/core';
import type { Model } from 'sequelize';
import { Op, literal } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';
import { IDLE_VERBS } from './idle-verbs.ts';
import { setComputation } from './make-plan.ts';

const LOOK_MS = 1000;
/** Changes that come one after another are planned together, but not put off for longer than this. */
const SETTLE_MS = 1500;
const LONGEST_WAIT_MS = 10_000;
/** A plan ages with the clock, also where nothing was recorded. */
const OLDEST_PLAN_MS = 2 * 3_600_000;
/** Who plans says so again and again; who has not for so long is taken for dead, and somebody else plans. */
const LEASE_MS = 8_000;
const RENEW_MS = 2_000;

/**
 * Plans anew by itself after changes that matter, one run at a time, also where several servers share the records: they
 * all look, and the lease says who plans.
 */
export class Replanner {
  private timer: NodeJS.Timeout | undefined;
  private looking = false;
  private said = '';
  private running: Promise<void> | undefined;
  private firstSeen = 0;
  private lastSeen = { newest: -1, at: 0 };

  /** @param plan plans in a thread and resolves when the plan is kept */
  constructor(
    private readonly store: Store,
    private readonly now: () => Instant,
    private readonly plan: (now: Instant) => Promise<unknown>,
  ) {}

  start(): void {
    this.timer = setInterval(() => void this.look(), LOOK_MS);
    this.timer.unref();
  }

  /** Ends the looking, and waits for a run that is under way. */
  async stop(): Promise<void> {
    clearInterval(this.timer);
    await this.running?.catch(() => undefined);
  }

  private async look(): Promise<void> {
    if (this.looking || this.running) return;
    this.looking = true;
    try {
      if (await this.due()) this.running = this.run().finally(() => (this.running = undefined));
      this.said = '';
    } catch (error) {
      // The next look tries again; said once, not each second.
      const { message } = error as Error;
      if (message !== this.said) console.error('planning:', message);
      this.said = message;
    } finally {
      this.looking = false;
    }
  }

  /** Whether something changed since the last plan, and has settled. */
  private async due(): Promise<boolean> {
    const { models } = this.store;
    const [computed] = await rowsOf<{ basis: number }>(this.store, 'computations', { kind: 'plan' });
    if (!computed) return false;
    const newest = await models.events.max<number | null, Model>('number', {
      where: { number: { [Op.gt]: computed.basis }, verb: { [Op.notIn]: IDLE_VERBS } },
    });
    if (newest === null) {
      this.firstSeen = 0;
      const made = await models.plans.max<Date | null, Model>('madeAt', { where: { state: 'current' } });
      return made !== null && Date.parse(this.now()) - new Date(made).getTime() > OLDEST_PLAN_MS;
    }
    const seen = Date.now();
    this.firstSeen ||= seen;
    if (newest !== this.lastSeen.newest) this.lastSeen = { newest, at: seen };
    return seen - this.lastSeen.at >= SETTLE_MS || seen - this.firstSeen >= LONGEST_WAIT_MS;
  }

  private async run(): Promise<void> {
    const now = this.now();
    const until = () => new Date(Date.now() + LEASE_MS).toISOString();
    // The lease counts by the machine's clock, whatever hour the shop's clock shows.
    const [taken] = await this.store.models.computations.update(
      { state: 'running', leaseUntil: until(), attempts: literal('attempts + 1'), at: now },
      {
        where: {
          kind: 'plan',
          [Op.or]: [{ state: { [Op.ne]: 'running' } }, { leaseUntil: { [Op.lt]: new Date() } }],
        },
      },
    );
    if (taken !== 1) return;
    this.firstSeen = 0;
    const renewing = setInterval(
      () =>
        void this.store.models.computations
          .update({ leaseUntil: until() }, { where: { kind: 'plan', state: 'running' } })
          .catch(() => undefined),
      RENEW_MS,
    );
    try {
      await this.plan(now);
    } catch (error) {
      console.error('planning:', error);
      const basis = this.lastSeen.newest;
      const text = 'The planner broke off. The dates before stay; it tries again after the next change.';
      await setComputation(this.store, { state: 'failed', basis, now, error: text }).catch(() => undefined);
    } finally {
      clearInterval(renewing);
    }
  }
}

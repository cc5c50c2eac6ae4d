// Recording a step: from the click to the answer, on the full shop.
import { randomUUID } from 'node:crypto';
import type { DayAnswer, ShopAnswer } from '@kalvet/core';
import { line, quantile, timed } from './measure.ts';
import type { Line } from './measure.ts';
import type { Served } from './serve.ts';

const COUNT = 150;

interface Job {
  readonly id: string;
  readonly version: number;
}

/** Records dips one after the other, each on another tree. */
export class Recorder {
  private constructor(
    private readonly served: Served,
    private readonly person: string,
    private jobs: Job[],
  ) {}

  static async open(served: Served): Promise<Recorder> {
    const { people } = await served.json<ShopAnswer>('/api/shop');
    return new Recorder(served, people[0]!.id, []);
  }

  /** The steps that can be recorded now without any reading of their own. */
  private async refill(): Promise<void> {
    const { lines, now } = await this.served.json<DayAnswer>('/api/day');
    this.jobs = lines
      .filter(
        ({ kind, waits, readyAt, held, after }) =>
          ['coat', 'inspect', 'wax-buff'].includes(kind) &&
          !after &&
          !held &&
          waits.length === 0 &&
          (readyAt ?? '') <= now,
      )
      .map(({ stepId, version }) => ({ id: stepId, version }));
    if (this.jobs.length === 0) throw new Error('nothing in the shop can be recorded now');
  }

  /** Records one; gives the milliseconds it took. */
  async record(): Promise<number> {
    if (this.jobs.length === 0) await this.refill();
    const { id, version } = this.jobs.shift()!;
    let status = 0;
    const form = await this.served.json<{ step: { kind: string } }>(`/api/steps/${id}/form`);
    const { kind } = form.step;
    const ms = await timed(async () => {
      status = await this.served.post(
        `/api/steps/${id}/record`,
        {
          version,
          outcome: kind === 'inspect' ? 'accept' : 'done',
          startedAt: null,
          endedAt: new Date().toISOString(),
          by: [this.person],
          readings: kind === 'coat' ? { slurry: 'backup', stucco: 'coarse', roomC: 22, roomRh: 50 } : {},
          note: '',
        },
        randomUUID(),
      );
    });
    // Somebody may have taken its tree with another record: the next one then.
    if (status !== 200 && status !== 409) throw new Error(`recording ${kind}: ${status}`);
    return status === 200 ? ms : this.record();
  }
}

export async function record(served: Served): Promise<Line[]> {
  const recorder = await Recorder.open(served);
  for (let i = 0; i < 10; i++) await recorder.record();
  const all: number[] = [];
  for (let i = 0; i < COUNT; i++) all.push(await recorder.record());
  return [
    line('Recording a step, p50', quantile(all, 0.5), 'ms'),
    line('Recording a step, p95', quantile(all, 0.95), 'ms', 50),
  ];
}

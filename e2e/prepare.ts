// A shop that stands somewhere in the middle of its work, made past the screens: what a journey is not about.
import type { NextStep, StepForm } from '@kalvet/core';
import type { Kalvet } from './kalvet.ts';

const HOUR_MS = 3_600_000;
let made = 0;
/** Ids in the order they are asked for. */
export const nextId = (): string => `01a00000-0000-7000-8000-${String(++made).padStart(12, '0')}`;

const section = {
  name: 'Whole',
  wallMm: 5,
  metalHeightMm: 200,
  expectedWaxKg: 0.75,
  areaCm2: 1600,
  seamM: null,
  deep: false,
};

export class Prepared {
  constructor(
    private readonly kalvet: Kalvet,
    readonly person: string,
  ) {}

  /** The first person sets the shop up; everybody else is entered by one who is there. */
  static async open(kalvet: Kalvet, name: string, shortName: string, by?: string): Promise<Prepared> {
    if (!by) return new Prepared(kalvet, await kalvet.setUpShop(name, shortName));
    const id = nextId();
    const person = { id, name, shortName, roles: ['manager'], rooms: [], gates: [] };
    const { status, body } = await kalvet.post('/people', person, by);
    if (status !== 201) throw new Error(`${name}: ${status} ${JSON.stringify(body)}`);
    return new Prepared(kalvet, id);
  }

  /** Writes; fails with what the server says where it refuses. */
  async must(path: string, body: object): Promise<Record<string, never>> {
    const answer = await this.kalvet.post(path, body, this.person);
    if (answer.status >= 300) throw new Error(`${path}: ${answer.status} ${JSON.stringify(answer.body)}`);
    return answer.body;
  }

  /** A work of one section; gives its id and its pieces in order. */
  async setUp(code: string, title: string, pieces: number): Promise<{ id: string; pieceIds: string[] }> {
    const body = {
      id: nextId(),
      code,
      title,
      artist: 'A. Sculptor',
      editionSize: pieces,
      artistProofs: 0,
      alloyId: 'C87300',
      method: 'shell',
      approval: 'none',
      finish: 'brown',
      finishing: 'patina',
      glyph: 'otter',
      dueDate: null,
      sections: [section],
      moulds: [{ name: 'whole', sections: [1], pullsBefore: 0 }],
    };
    return (await this.must('/works', body)) as unknown as { id: string; pieceIds: string[] };
  }

  /** Carries a piece up to (not over) the first step that `until` names, the whole written up from so many hours ago. */
  async carry(pieceId: string, until: (step: NextStep) => boolean, hoursAgo: number): Promise<NextStep> {
    let clock = Date.now() - hoursAgo * HOUR_MS;
    for (let guard = 0; guard < 60; guard++) {
      const { piece } = await this.kalvet.piece(pieceId);
      const next = piece.next.find(({ waits }) => waits.length === 0);
      if (!next) throw new Error('the piece has no next step');
      if (until(next)) return next;
      clock = Math.max(clock, Date.parse(next.readyAt ?? '1970-01-01')) + 60_000;
      await this.record(next.stepId, new Date(clock).toISOString());
    }
    throw new Error('the piece did not get there');
  }

  /** Records one step with readings that pass. */
  async record(stepId: string, endedAt: string, rest: object = {}): Promise<void> {
    const form = await this.kalvet.form(stepId);
    const { step } = form;
    const done = { startedAt: null, endedAt, by: [this.person], note: '' };
    if (step.through === 'load') {
      const record = { ...done, profile: '900 °C, 2 h', topC: 905, lost: [] };
      await this.must('/loads', { id: nextId(), treeIds: [step.carrierId], record });
    } else {
      const readings = readingsOf(form);
      const outcome = step.kind === 'inspect' ? 'accept' : 'done';
      await this.must(`/steps/${stepId}/record`, { ...done, version: step.version, outcome, readings, ...rest });
    }
  }
}

function readingsOf({ step, moulds, casts }: StepForm): Record<string, unknown> {
  const onTree = casts.filter((cast) => cast.onTree).map(({ id }) => id);
  const given: Record<string, Record<string, unknown>> = {
    'make-mould': { lifePulls: 60 },
    pull: { mouldId: moulds[0]?.id, wax: 'pattern', potC: 80 },
    'chase-wax': { waxKg: 0.75, markPutIn: true },
    'join-tree': { castIds: onTree, bars: [] },
    coat: { slurry: 'backup', stucco: 'coarse' },
    'leak-test': { how: 'light' },
    'knock-out': { castKg: Object.fromEntries(onTree.map((id) => [id, 6.4])) },
  };
  return given[step.kind] ?? {};
}

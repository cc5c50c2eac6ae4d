// A real Kalvet for specs: the application over a real MariaDB, its clock set by the spec, spoken to by HTTP.
import { randomUUID } from 'node:crypto';
import type { Express } from 'express';
import request from 'supertest';
import type {
  FloorAnswer,
  How,
  Id,
  Person,
  PieceAnswer,
  Rights,
  SetUpWork,
  StepForm,
  StepKindCode,
  StepView,
} from '@kalvet/core';
import { METRIC, POUR_CHECKS, addMinutes, alloyOf, kindOf } from '@kalvet/core';
import { createApp } from '../app.ts';
import { write } from '../shop/write-shop.ts';
import { newId } from '../write/new-id.ts';
import type { Store } from '../write/store.ts';
import { NOWHERE } from '../people/audit.ts';
import { openSession } from '../people/sessions.ts';
import { openStore } from '../store.ts';
import { forgetClimate } from '../shop/shop-climate.ts';
import { layPlanningDefaults } from '../plan/defaults.ts';
import { makePlan } from '../plan/make-plan.ts';

export const START = '2027-03-01T08:00:00.000Z';

let opened: Promise<Store> | undefined;

/** The store of this run; the tables are made once. */
export function testStore(): Promise<Store> {
  const url = process.env['KALVET_TEST_DB_URL'];
  if (!url) throw new Error('KALVET_TEST_DB_URL is missing: run these specs with `npm test -- server`');
  opened ??= openStore(url);
  return opened;
}

const KEPT = new Set(['migration', 'counter', 'setting', 'computation']);

/** Ends the run's connections, so that the process can end. */
export async function closeTestStore(): Promise<void> {
  const store = await opened;
  opened = undefined;
  await store?.db.close();
}

/** Empties every table. */
export async function emptyStore(store: Store): Promise<void> {
  const [rows] = await store.db.query('SHOW TABLES');
  const tables = (rows as Record<string, string>[])
    .map((row) => Object.values(row)[0]!)
    .filter((name) => !KEPT.has(name));
  await store.db.transaction(async (transaction) => {
    await store.db.query('SET FOREIGN_KEY_CHECKS = 0', { transaction });
    for (const table of tables) await store.db.query(`DELETE FROM ${table}`, { transaction });
    await store.db.query('UPDATE counter SET value = 0', { transaction });
    await store.db.query('DELETE FROM setting', { transaction });
    await store.db.query("UPDATE computation SET state = 'done', leaseUntil = NULL, basis = -1", { transaction });
    await store.db.query('SET FOREIGN_KEY_CHECKS = 1', { transaction });
  });
  forgetClimate(store);
  await layPlanningDefaults(store);
}

export interface Answer {
  readonly status: number;
  // Specs look into answers of many shapes.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  readonly body: any;
}

/** A shop that a spec works in. */
export class TestShop {
  now = START;
  person: Id = '';
  /** What each person's browser sends with a request. */
  private readonly signedIn = new Map<Id, Readonly<Record<string, string>>>();
  private constructor(
    readonly store: Store,
    readonly app: Express,
  ) {}

  /** An empty shop with one person in it who may override. */
  static async open(): Promise<TestShop> {
    const store = await testStore();
    await emptyStore(store);
    const clock = { now: () => shop.now };
    const shop: TestShop = new TestShop(store, createApp({ store, now: () => clock.now() }).app);
    shop.person = await shop.addPerson('Ines Marlow', 'IM');
    return shop;
  }

  /** Moves the clock. */
  later(minutes: number): string {
    this.now = addMinutes(this.now, minutes);
    return this.now;
  }

  /** Somebody who works here and is signed in at a browser of their own. */
  async addPerson(
    name: string,
    shortName: string,
    { roles = ['manager'], rooms = [], gates = [], how = 'password' as How }: Partial<Rights & { how: How }> = {},
  ): Promise<Id> {
    const person: Person = {
      id: newId(),
      name,
      shortName,
      roles,
      rooms,
      gates,
      active: true,
      units: METRIC,
      version: 1,
    };
    await write(this.store, { actor: null, now: this.now, requestId: 'spec' }, async (ctx) => {
      await ctx.insert('people', [person]);
      ctx.concern('person', person.id);
      ctx.event = { verb: 'add person', text: `${name} works here` };
      return {};
    });
    return this.signIn(person.id, how);
  }

  /** Signs somebody who is there in at a browser of their own. */
  async signIn(personId: Id, how: How = 'password'): Promise<Id> {
    const { secret, session } = await openSession(this.store, { personId, how, from: NOWHERE });
    this.signedIn.set(personId, { Cookie: `kalvet_session=${secret}`, 'X-Kalvet-Token': session.token });
    return personId;
  }

  /** The headers of somebody's browser; of one that nobody is signed in at, none. */
  headers = (person: Id = this.person): Record<string, string> => ({ ...this.signedIn.get(person) });

  async send(
    method: 'post' | 'put' | 'patch',
    path: string,
    body: object,
    key: string = randomUUID(),
    person = this.person,
  ): Promise<Answer> {
    return request(this.app)[method](path).set('Idempotency-Key', key).set(this.headers(person)).send(body);
  }

  async get<T>(path: string, person = this.person): Promise<T> {
    const { status, body } = await request(this.app).get(path).set(this.headers(person));
    if (status !== 200) throw new Error(`${path}: ${status} ${JSON.stringify(body)}`);
    return body as T;
  }

  floor = () => this.get<FloorAnswer>('/api/floor');
  piece = (id: Id) => this.get<PieceAnswer>(`/api/pieces/${id}`);
  form = (stepId: Id) => this.get<StepForm>(`/api/steps/${stepId}/form`);

  /** Plans the shop as the planner does by itself after changes. */
  plan = () => makePlan(this.store, this.now);

  /** Sets up a work; gives its pieces in order. */
  async setUp(given: Partial<SetUpWork> = {}): Promise<{ id: Id; pieceIds: Id[] }> {
    const body = workBody(given);
    const answer = await this.send('post', '/api/works', body);
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return answer.body as { id: Id; pieceIds: Id[] };
  }

  /** Every step of a piece, its sections' first, in order. */
  async steps(pieceId: Id): Promise<StepView[]> {
    const piece = await this.piece(pieceId);
    return [...piece.lanes.flatMap(({ attempts }) => attempts.flatMap(({ steps }) => steps)), ...piece.pieceSteps];
  }

  /** The first open step of a kind on a piece's way. */
  async open(pieceId: Id, kind: StepKindCode): Promise<StepView> {
    const found = (await this.steps(pieceId)).find(
      (step) => step.kind === kind && (step.state === 'planned' || step.state === 'running'),
    );
    if (!found) throw new Error(`no open ${kind}`);
    return found;
  }

  /** Makes the moulds that a piece's work waits for, and lets them cure. */
  async makeMould(pieceId: Id): Promise<void> {
    const [rows] = await this.store.db.query(
      `SELECT s.id FROM step s JOIN mould m ON m.id = s.mouldId JOIN piece p ON p.workId = m.workId
        WHERE s.kind = 'make-mould' AND s.state = 'planned' AND p.id = ?`,
      { replacements: [pieceId] },
    );
    for (const { id } of rows as { id: Id }[]) {
      const { step } = await this.form(id);
      await this.must(this.record(step, 'done', { lifePulls: 60 }));
    }
    this.later(24 * 60);
  }

  /** Records a step as the panel would, with the readings given over those that pass. */
  async record(
    step: StepView,
    outcome: string,
    readings: Record<string, unknown> = {},
    rest: Record<string, unknown> = {},
    key?: string,
  ): Promise<Answer> {
    const body = {
      version: step.version,
      outcome,
      startedAt: null,
      endedAt: this.now,
      by: [this.person],
      readings,
      note: outcome === 'done' ? '' : 'seen',
      ...rest,
    };
    return this.send('post', `/api/steps/${step.id}/record`, body, key);
  }

  async must(answer: Promise<Answer>): Promise<Answer> {
    const done = await answer;
    if (done.status >= 300) throw new Error(`${done.status} ${JSON.stringify(done.body)}`);
    return done;
  }

  /** Carries a piece's open sections up to (not over) a step of a kind, each wait kept. */
  async carry(pieceId: Id, until: StepKindCode | 'delivered'): Promise<void> {
    for (let guard = 0; guard < 400; guard++) {
      const { piece } = await this.piece(pieceId);
      const next = piece.next.find(({ kind, waits }) => kind !== until && waits.length === 0);
      if (!next || (until !== 'delivered' && piece.next.every(({ kind }) => kind === until))) return;
      const ready = next.readyAt && next.readyAt > this.now ? next.readyAt : this.now;
      this.now = addMinutes(ready, 1);
      await this.must(this.done(next.stepId));
    }
    throw new Error('the piece did not get there');
  }

  /** Does one step with readings that pass; firings and pours with a load and a heat of their own. */
  async done(stepId: Id): Promise<Answer> {
    const form = await this.form(stepId);
    const { step } = form;
    if (step.through === 'load') return this.fire([step.carrierId], {}, kindOf(step.kind).kiln === 'block' ? 690 : 905);
    if (step.through === 'heat') return this.pour(step.carrierId, form.companions[0]?.alloyId ?? 'C87300');
    return this.record(step, firstOutcome(step.kind), readings(form));
  }

  async fire(treeIds: readonly Id[], rest: object = {}, topC = 905): Promise<Answer> {
    const record = {
      startedAt: null,
      endedAt: this.now,
      by: [this.person],
      profile: '900 °C, 2 h',
      topC,
      note: '',
      lost: [],
    };
    return this.send('post', '/api/loads', { id: newId(), treeIds, record, ...rest });
  }

  /** Plans a heat for one tree, charges it, confirms the crew and pours. */
  async pour(treeId: Id, alloyId: string, outcome = 'poured', kg = 12): Promise<Answer> {
    const id = newId();
    const charge = { what: 'ingot', alloyId, kg: 20, lot: 'B-1', dry: true };
    const phosphor = { what: 'addition', alloyId: null, kg: 0.06, lot: '', dry: true };
    await this.must(
      this.send('post', '/api/heats', {
        id,
        alloyId,
        plannedFor: null,
        trees: [{ treeId }],
        chargeLines: alloyOf(alloyId).addition === 'none' ? [charge] : [charge, phosphor],
      }),
    );
    await this.must(
      this.send('post', `/api/heats/${id}/crew`, {
        version: 1,
        crew: [{ role: 'lead', personId: this.person, deputyId: null }],
        signs: 'spoken',
        checks: POUR_CHECKS,
        coverConfirmed: true,
      }),
    );
    const { version } = await this.get<{ version: number }>(`/api/heats/${id}`);
    const body = {
      version,
      treeId,
      outcome,
      startedAt: null,
      endedAt: this.now,
      by: [this.person],
      note: outcome === 'poured' ? '' : 'seen',
      readings: outcome === 'poured' || outcome === 'short' ? { pouredKg: kg, metalC: 1120, seconds: 8 } : {},
    };
    return this.send('post', `/api/heats/${id}/pour`, body);
  }
}

const firstOutcome = (kind: StepKindCode) => kindOf(kind).outcomes[0]!.code;

/** Readings that pass for a step's form. */
export function readings(form: StepForm): Record<string, unknown> {
  const onTree = form.casts.filter(({ onTree: here }) => here).map(({ id }) => id);
  const given: Partial<Record<StepKindCode, Record<string, unknown>>> = {
    pull: { mouldId: form.moulds.find(({ good }) => good)?.id, wax: 'pattern', potC: 82 },
    'chase-wax': { waxKg: form.expectedWaxKg ?? 0.75, markPutIn: true },
    'approve-wax': { by: 'the artist' },
    'join-tree': { castIds: onTree, bars: [{ stock: 'S12', count: 2, lengthMm: 180 }] },
    coat: { slurry: 'backup', stucco: 'coarse' },
    'leak-test': { how: 'light' },
    // Of the 12 kg that are poured everywhere here, what is no cast comes back.
    'knock-out': {
      castKg: Object.fromEntries(onTree.map((id) => [id, 6.4])),
      ...(onTree.length === 1 ? { returnsKg: 5.5 } : {}),
    },
    patina: { recipe: 'ferric, hot' },
    'final-inspection': { finishedKg: 6.3 },
    deliver: { toWhom: 'the gallery' },
  };
  return given[form.step.kind] ?? {};
}

/** A work as the set-up form sends it. */
export function workBody(given: Partial<SetUpWork> = {}): SetUpWork {
  const sections = given.sections ?? [section('whole')];
  return {
    id: newId(),
    code: 'OTT',
    title: 'Otter with Reed',
    artist: 'Wilma Tarn',
    editionSize: 1,
    artistProofs: 0,
    alloyId: 'C87300',
    method: 'shell',
    approval: 'none',
    finish: '',
    finishing: 'patina',
    glyph: 'otter',
    dueDate: '2027-06-01',
    moulds:
      given.method === 'direct' ? [] : [{ name: 'whole', sections: sections.map((_, i) => i + 1), pullsBefore: 0 }],
    ...given,
    sections,
  };
}

export const section = (
  name: string,
  rest: Partial<SetUpWork['sections'][number]> = {},
): SetUpWork['sections'][number] => ({
  name,
  wallMm: 5,
  metalHeightMm: 180,
  expectedWaxKg: 0.75,
  areaCm2: 1600,
  seamM: null,
  deep: false,
  ...rest,
});

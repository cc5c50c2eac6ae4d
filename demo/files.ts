// The demo's models and pictures: sent, told by their content and hung on their records by the services that people use.
import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type {
  Id,
  Instant,
  ModelMeasured,
  Person,
  PictureRole,
  Piece,
  Pin,
  Section,
  Step,
  WayUp,
  Work,
} from '@kalvet/core';
import { FILE_LIMITS, METRIC } from '@kalvet/core';
import type { Model } from 'sequelize';
import { rowsOf } from '../server/src/db/rows.ts';
import { attachFile } from '../server/src/files/attach.service.ts';
import { beginUpload, endUpload, putPart } from '../server/src/files/upload.service.ts';
import { write } from '../server/src/shop/write-shop.ts';
import { estimateSection, saveModel, saveSilhouette, saveWayUp } from '../server/src/weigh/model.service.ts';
import type { Context } from '../server/src/write/context.ts';
import { newId } from '../server/src/write/new-id.ts';
import type { Store } from '../server/src/write/store.ts';
import type { FigureName } from './models/figures.ts';

/** Beside this file, or where the program was packed beside the tree. */
const FOLDER = (() => {
  const here = dirname(fileURLToPath(import.meta.url));
  return [join(here, 'files'), join(here, '../../demo/files')].find((folder) => existsSync(folder)) ?? here;
})();

interface Told {
  readonly measured: ModelMeasured;
  readonly way: {
    readonly up: readonly [number, number, number];
    readonly heightMm: number;
    readonly traps: readonly Place[];
    readonly lowest: readonly Place[];
  };
  readonly glyph: string;
}
interface Place {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly prominenceMm: number;
}

/** Which work each figure is the model of. */
const FIGURE_OF: Readonly<Record<string, FigureName>> = {
  OTT: 'otter',
  HER: 'heron',
  HND: 'hound',
  MAL: 'mallet',
  PIL: 'pilot',
};

/** What was photographed: on which work, or at which step of which piece; by whom; in which role. */
const SEEN: readonly {
  readonly file: string;
  readonly work: string;
  readonly piece?: number;
  readonly kind?: string;
  readonly section?: string;
  readonly by: string;
  readonly role?: PictureRole;
  readonly words: string;
  readonly pins?: readonly Pin[];
}[] = [
  { file: 'otter-clay-front', work: 'OTT', by: 'PL', role: 'original', words: 'front' },
  { file: 'otter-clay-left', work: 'OTT', by: 'PL', role: 'original', words: 'left side' },
  {
    file: 'otter-wax',
    work: 'OTT',
    piece: 9,
    kind: 'chase-wax',
    by: 'PL',
    words: 'reed side poured thick',
    pins: [{ x: 0.585, y: 0.46, words: 'reed 2 mm too thick' }],
  },
  {
    file: 'otter-metal-ear',
    work: 'OTT',
    piece: 4,
    kind: 'inspect',
    by: 'HB',
    words: 'two pinholes by the ear',
    pins: [
      { x: 0.42, y: 0.14, words: 'pinhole, 2 mm' },
      { x: 0.47, y: 0.21, words: 'pinhole, 1 mm' },
    ],
  },
  { file: 'otter-brown', work: 'OTT', piece: 1, kind: 'wax-buff', by: 'HB', words: 'as it left' },
  {
    file: 'otter-brown-two',
    work: 'OTT',
    piece: 2,
    kind: 'wax-buff',
    by: 'HB',
    words: 'beside the first: reed a little lighter',
  },
  { file: 'heron-clay-left', work: 'HER', by: 'PL', role: 'original', words: 'left side' },
  {
    file: 'heron-shell-wing',
    work: 'HER',
    piece: 4,
    section: 'Wing B',
    kind: 'leak-test',
    by: 'OV',
    words: 'hairline, seen by light',
    pins: [{ x: 0.2, y: 0.56, words: 'hairline, 18 mm, at the tip' }],
  },
  {
    file: 'heron-verdigris',
    work: 'HER',
    piece: 1,
    kind: 'patina',
    by: 'HB',
    words: 'third coat, before rubbing back',
  },
  { file: 'hound-clay', work: 'HND', by: 'PL', role: 'original', words: 'from the front' },
  {
    file: 'hound-haunch',
    work: 'HND',
    piece: 2,
    section: 'Back',
    kind: 'inspect',
    by: 'HB',
    words: 'ran short at the left haunch',
    pins: [{ x: 0.3, y: 0.42, words: 'missing, 60 mm' }],
  },
  {
    file: 'mallet-black',
    work: 'MAL',
    piece: 1,
    kind: 'patina',
    by: 'HB',
    words: 'black, before the edges are rubbed',
  },
  { file: 'pilot-clay', work: 'PIL', by: 'PL', role: 'original', words: 'three quarters' },
  { file: 'pilot-wax', work: 'PIL', piece: 4, kind: 'chase-wax', by: 'PL', words: 'seam of the cap cleaned' },
  { file: 'pilot-metal', work: 'PIL', piece: 2, kind: 'inspect', by: 'HB', words: 'sound all round' },
];

/** Lays models and pictures over the foundry that was laid. @returns how many files */
export async function layFiles(store: Store, now: Instant): Promise<number> {
  const [works, people] = await Promise.all([rowsOf<Work>(store, 'works', {}), rowsOf<Person>(store, 'people', {})]);
  const person = (shortName: string) => ({ ...people.find((each) => each.shortName === shortName)!, units: METRIC });
  const work = new Map(works.map((each) => [each.code, each]));
  const told = JSON.parse(readFileSync(join(FOLDER, 'models.json'), 'utf8')) as Record<FigureName, Told>;
  const begun = works.length > 0 ? await firstDay(store) : now;
  let files = 0;
  for (const [code, figure] of Object.entries(FIGURE_OF)) {
    const of = work.get(code)!;
    await as(store, person('PL'), begun, (ctx) =>
      saveSilhouette(ctx, of.id, { version: of.version, glyph: told[figure].glyph }),
    );
    files += await layModel(store, of, figure, told[figure], { who: person('PL'), at: begun });
  }
  for (const seen of SEEN) {
    const hook = await hookOf(store, work.get(seen.work)!, seen, begun);
    if (!hook) continue;
    const name = `${seen.file}.jpg`;
    const who = person(seen.by);
    const { id: contentId } = await send(store, who.id, name, hook.at);
    await as(store, who, hook.at, (ctx) =>
      attachFile(ctx, {
        ...{
          id: newId(),
          contentId,
          name,
          defect: seen.kind === 'inspect' && seen.pins ? 0 : null,
          at: hook.at,
          words: seen.words,
          pins: seen.pins ?? [],
        },
        ...{ subject: hook.subject, subjectId: hook.id, role: seen.role ?? 'seen' },
      }),
    );
    files++;
  }
  return files;
}

/** When the first of it was recorded. */
async function firstDay(store: Store): Promise<Instant> {
  const first = await store.models.events.min<Date, Model>('doneAt');
  return new Date(first).toISOString();
}

const as = (store: Store, actor: Person, now: Instant, work: (ctx: Context) => Promise<{ id: Id }>) =>
  write(store, { actor, now, requestId: 'played', how: 'password' }, work);

/** A file of the demo's, sent in parts as a browser sends it. */
async function send(store: Store, personId: Id, name: string, at: Instant) {
  const bytes = readFileSync(join(FOLDER, name));
  const { id } = await beginUpload(store, personId, { id: newId(), name, bytes: bytes.length, fingerprint: name }, at);
  for (let part = 0; part * FILE_LIMITS.partBytes < bytes.length; part++)
    await putPart(
      store,
      personId,
      id,
      part,
      bytes.subarray(part * FILE_LIMITS.partBytes, (part + 1) * FILE_LIMITS.partBytes),
    );
  return endUpload(store, personId, id);
}

/** A work's model as its page keeps it: measured, cut where the work is in two sections, with the way up it is poured. */
async function layModel(
  store: Store,
  work: Work,
  figure: FigureName,
  { measured, way }: Told,
  { who, at }: { who: Person; at: Instant },
): Promise<number> {
  const name = `${figure}.3mf`;
  if (!existsSync(join(FOLDER, name))) return 0;
  const { id: contentId } = await send(store, who.id, name, at);
  const sections = (await rowsOf<Section>(store, 'sections', { workId: work.id })).sort(
    (a, b) => a.ordinal - b.ordinal,
  );
  const place = ({ x, y, z, prominenceMm }: Place, words: string) => ({
    ...{ x, y, z },
    words: words || `stands out by ${Math.round(prominenceMm)} mm`,
  });
  const wayUp: WayUp = {
    up: way.up,
    heightMm: way.heightMm,
    vents: way.traps.map((trap) => place(trap, '')),
    gates: way.lowest.slice(0, 3).map((low) => place(low, 'into the back')),
  };
  const modelId = newId();
  const isWhole = sections.length === 1;
  await as(store, who, at, (ctx) =>
    saveModel(ctx, {
      ...{ id: modelId, version: 0, workId: work.id, sectionId: null, contentId, name, measured },
      sizing: { unit: 'mm', bronzeMm: null, axis: 'z', rubber: 'silicone-condensation' },
      planes: isWhole ? [] : [{ normal: [1, 0, 0], offsetMm: 0 }],
      cutNames: isWhole ? [] : sections.map((section) => section.name),
      wayUp: isWhole ? wayUp : null,
    }),
  );
  await as(store, who, at, (ctx) =>
    attachFile(ctx, {
      ...{ id: newId(), contentId, subject: 'work', subjectId: work.id, defect: null, name, role: 'seen', words: '' },
      ...{ pins: [], at },
    }),
  );
  if (!isWhole) return 1;
  const [section] = sections as [Section];
  const add = { id: newId(), kind: 'model' as const, waxKg: null, plusMinusKg: null, curve: measured.curve };
  await as(store, who, at, (ctx) =>
    estimateSection(ctx, section.id, {
      version: section.version,
      add: { ...add, areaCm2: measured.areaCm2, says: 'the model', modelId },
      putAway: null,
    }),
  );
  await as(store, who, at, (ctx) => saveWayUp(ctx, section.id, { version: section.version + 1, wayUp }));
  return 1;
}

/** What a picture hangs on, and when it was taken: the step's end; the work's beginning. */
async function hookOf(
  store: Store,
  work: Work,
  { piece: number, kind, section }: (typeof SEEN)[number],
  begun: Instant,
): Promise<{ subject: 'work' | 'step'; id: Id; at: Instant } | undefined> {
  if (number === undefined) return { subject: 'work', id: work.id, at: begun };
  const [piece] = await rowsOf<Piece>(store, 'pieces', { workId: work.id, number, series: 'edition' });
  const sections = await rowsOf<Section>(store, 'sections', { workId: work.id });
  const casts = (await rowsOf<{ id: Id; sectionId: Id }>(store, 'casts', { pieceId: piece!.id }))
    .filter(({ sectionId }) => !section || sections.find(({ id }) => id === sectionId)?.name === section)
    .map(({ id }) => id);
  const trees = (await rowsOf<{ treeId: Id }>(store, 'treeCasts', { castId: casts })).map(({ treeId }) => treeId);
  const steps = [
    ...(await rowsOf<Step>(store, 'steps', { castId: casts, kind: kind!, state: ['done', 'again'] })),
    ...(await rowsOf<Step>(store, 'steps', { treeId: trees, kind: kind!, state: ['done', 'again'] })),
    ...(await rowsOf<Step>(store, 'steps', { pieceId: piece!.id, kind: kind!, state: ['done', 'again'] })),
  ].sort((a, b) => (a.endedAt ?? '').localeCompare(b.endedAt ?? ''));
  const step = steps[0];
  return step?.endedAt ? { subject: 'step', id: step.id, at: step.endedAt } : undefined;
}

import { Injectable, computed, effect, inject, signal, untracked } from '@angular/core';
import type {
  AttachmentsAnswer,
  CutPlane,
  Id,
  ModelMeasured,
  ModelView as KeptModel,
  ModelsAnswer,
  SaveModel,
  ShopFits,
  WayUp,
} from '@kalvet/core';
import { LIMITS, RUBBERS, alloyOf, chainOfShrinkages, sizeChain } from '@kalvet/core';
import { LENGTH_UNITS } from '@kalvet/core/mesh/length';
import type { ModelAnswers, ModelLook, PartReport, ThicknessReport, Traps } from '@kalvet/core/weigh/index';
import { Uploads } from '../files/uploads.service';
import { newId } from '../shared/ids';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { ModelSession } from './model-session';
import { MeasuredThere } from './measured-there';
import { metalPins, partPins, wayPins } from './model-pins';
import type { ViewPin } from './model-pins';

export type Tab = 'size' | 'cuts' | 'thickness' | 'ways';
type Unit = SaveModel['sizing']['unit'];
type Axis = SaveModel['sizing']['axis'];

/** What is fetched without being asked for. */
const SMALL_BYTES = 40e6;
const AXES: readonly Axis[] = ['x', 'y', 'z'];

/** The model on the page and everything that was worked out from it, for all its panels. */
@Injectable()
export class ModelDesk {
  private readonly shop = inject(ShopService);
  private readonly uploads = inject(Uploads);
  readonly saving = new Submission();

  readonly answer = signal<ModelsAnswer | undefined>(undefined);
  /** The section that the model is of; null where it is the whole work. */
  readonly sectionId = signal<Id | null>(null);
  readonly tab = signal<Tab>('size');

  readonly session = signal<ModelSession | null>(null);
  private file: File | null = null;
  private contentId: Id | null = null;
  readonly asked = signal<ModelAnswers['ask'] | null>(null);
  readonly unit = signal<Unit | null>(null);
  readonly axis = signal<Axis>('z');
  /** Wanted of the bronze, mm; null: the model is the original as it is. */
  readonly bronzeMm = signal<number | null>(null);
  readonly rubber = signal<string>(RUBBERS[1].code);
  readonly look = signal<ModelLook | null>(null);
  /** What is kept of the model that is looked at, where it was kept. */
  readonly kept = computed<KeptModel | undefined>(() =>
    this.answer()?.models.find(({ sectionId }) => sectionId === this.sectionId()),
  );
  readonly fetching = signal(false);
  readonly fetchWrong = signal('');
  /** What was measured of the model on the page; of the one that is kept, where no other file was opened. */
  readonly measured = computed<ModelMeasured | undefined>(
    () => this.fresh() ?? (this.session() && !this.isKept() ? undefined : this.kept()?.measured),
  );
  private readonly fresh = signal<ModelMeasured | undefined>(undefined);
  readonly isKept = signal(false);

  readonly planes = signal<readonly CutPlane[]>([]);
  readonly chosenPlane = signal(-1);
  readonly parts = signal<readonly PartReport[]>([]);
  readonly partNames = signal<readonly string[]>([]);
  readonly thickness = signal<ThicknessReport | null>(null);
  readonly ways = signal<readonly Traps[]>([]);
  readonly way = signal<WayUp | null>(null);
  readonly chosenPin = signal<number | null>(null);

  readonly alloy = computed(() => alloyOf(this.answer()?.work.alloyId ?? 'C87300'));
  readonly isDirect = computed(() => this.answer()?.work.method === 'direct');
  readonly sections = computed(() => this.answer()?.sections ?? []);
  /** The section whose wall counts: the model's own, or the work's only or first one. */
  readonly section = computed(() => this.sections().find(({ id }) => id === this.sectionId()) ?? this.sections()[0]);
  readonly wallMm = computed(() => this.section()?.wallMm ?? 5);
  readonly fits = computed<ShopFits>(() => {
    const {
      crucibleUsableKg,
      pigReserveKg,
      liftLimitKg,
      tankAcrossMm,
      tankDeepMm,
      kilnAcrossMm,
      kilnHighMm,
      mouldLongMm,
    } = this.shop.settings();
    return {
      crucibleUsableKg,
      pigReserveKg,
      liftLimitKg,
      tankAcrossMm,
      tankDeepMm,
      kilnAcrossMm,
      kilnHighMm,
      mouldLongMm,
    };
  });

  /** What is wrong with the size that is wanted, in words. */
  readonly sizeWrong = computed(() => {
    const [bronzeMm, { min, max }] = [this.bronzeMm(), LIMITS.bronzeMm];
    if (bronzeMm === null || (bronzeMm >= min && bronzeMm <= max)) return '';
    return `from ${this.shop.amount(min, 'mm', 0)} to ${this.shop.amount(max / 1000, 'm', 0)}`;
  });

  /** How large original, wax and bronze are; undefined until the unit is known. */
  readonly chain = computed(() => {
    const [asked, unit] = [this.asked(), this.unit()];
    if (!asked || !unit) return undefined;
    const modelMm = asked.sides[AXES.indexOf(this.axis())]! * LENGTH_UNITS[unit];
    const bronzeMm = this.bronzeMm();
    if (!(modelMm > 0) || this.sizeWrong() !== '') return undefined;
    const method = this.isDirect() ? ('direct' as const) : ('shell' as const);
    const chain = chainOfShrinkages(this.alloy(), { rubber: this.rubber(), method });
    return sizeChain(modelMm, { bronzeMm }, chain);
  });
  /** Unit and scale that bring the file to the size of the wax. */
  readonly sizing = computed(() => {
    const [chain, unit] = [this.chain(), this.unit()];
    return chain && unit ? { unit, scale: chain.toWax } : undefined;
  });
  /** What is on the page was measured at another size than is said now. */
  readonly isStale = computed(() => {
    const [sizing, measured] = [this.sizing(), this.fresh()];
    if (this.sizeWrong() !== '') return true;
    return sizing !== undefined && (measured === undefined || Math.abs(measured.toWax / sizing.scale - 1) > 1e-9);
  });

  constructor() {
    // Another section, another model.
    effect(() => {
      const kept = this.kept();
      untracked(() => {
        if (this.session() && this.isKept() && kept?.contentId === this.contentId) return;
        if (this.session() && !this.isKept()) return;
        this.clear();
        if (!kept) return;
        this.takeOver(kept);
        if (kept.content.bytes <= SMALL_BYTES) void this.fetch();
      });
    });
  }

  private clear(): void {
    this.session()?.end();
    this.session.set(null);
    this.asked.set(null);
    this.look.set(null);
    this.fresh.set(undefined);
    this.file = null;
    this.contentId = null;
    this.planes.set([]);
    this.parts.set([]);
    this.partNames.set([]);
    this.way.set(null);
    this.forget();
  }

  /** What was worked out at another size or cut counts no more. */
  private forget(): void {
    this.thickness.set(null);
    this.ways.set([]);
    this.chosenPin.set(null);
  }

  private takeOver({ sizing, planes, cutNames, wayUp, contentId }: KeptModel): void {
    this.unit.set(sizing.unit);
    this.axis.set(sizing.axis);
    this.bronzeMm.set(sizing.bronzeMm);
    this.rubber.set(sizing.rubber);
    this.planes.set(planes);
    this.partNames.set(cutNames);
    this.way.set(wayUp);
    this.contentId = contentId;
    this.isKept.set(true);
  }

  /** Fetches the kept model, so that it can be looked at and asked about. */
  async fetch(): Promise<void> {
    const kept = this.kept();
    if (!kept || this.fetching()) return;
    this.fetching.set(true);
    this.fetchWrong.set('');
    try {
      const answer = await fetch(`/api/files/${kept.contentId}`);
      if (!answer.ok) throw new Error(String(answer.status));
      const bytes = new Uint8Array(await answer.arrayBuffer());
      const session = new ModelSession(kept.name, bytes, kept.contentId);
      this.session.set(session);
      this.asked.set((await session.run('ask', {})) ?? null);
      // What was measured is kept; only what is shown is worked out again.
      const look = await session.run('look', { wallsMm: [] }, this.sizing());
      this.look.set(look ?? null);
      this.fresh.set(kept.measured);
      if (this.planes().length > 0) await this.cut();
    } catch {
      this.fetchWrong.set('The model could not be fetched. What was measured of it stands beside.');
    } finally {
      this.fetching.set(false);
    }
  }

  /** Opens a file that somebody chose, in the place of what was there. */
  async open(file: File): Promise<void> {
    this.clear();
    this.isKept.set(false);
    this.file = file;
    const bytes = new Uint8Array(await file.arrayBuffer());
    const session = new ModelSession(file.name, bytes, `${file.name} ${file.size} ${file.lastModified}`);
    this.session.set(session);
    const asked = await session.run('ask', {});
    if (!asked) return;
    this.axis.set(asked.up);
    this.unit.set(asked.unit ?? asked.guess);
    this.bronzeMm.set(null);
    this.asked.set(asked);
    // It is shown at once, as large as it seems; measured when its size was said.
    this.look.set((await session.run('look', { wallsMm: [] }, this.sizing())) ?? null);
  }

  /** Measures the model at the size that is said. */
  async measure(): Promise<void> {
    const [session, sizing] = [this.session(), this.sizing()];
    if (!session || !sizing) return;
    const look = await session.run('look', {}, sizing);
    if (!look) return;
    this.look.set(look);
    this.fresh.set(look.measured);
    this.parts.set([]);
    this.forget();
    if (this.planes().length > 0) await this.cut();
  }

  /** Stops what is being worked out. */
  cancel(): void {
    this.session()?.cancel();
  }

  private get judged() {
    return { wallMm: this.wallMm(), alloyId: this.alloy().id, fits: this.fits() };
  }

  async cut(wallsMm: readonly number[] = []): Promise<void> {
    const planes = this.planes();
    if (planes.length === 0) {
      this.parts.set([]);
      return;
    }
    const parts = await this.session()?.run('cut', { ...this.judged, planes, wallsMm }, this.sizing());
    if (parts) this.parts.set(parts);
  }

  async suggest(): Promise<void> {
    const planes = await this.session()?.run('suggest', this.judged, this.sizing());
    if (!planes) return;
    this.planes.set(planes);
    this.chosenPlane.set(planes.length - 1);
    this.suggested.set(planes.length === 0 ? 'It fits whole: no cut is needed.' : '');
    await this.cut();
  }
  readonly suggested = signal('');

  async mapThickness(): Promise<void> {
    const found = await this.session()?.run('thickness', { wallMm: this.wallMm() }, this.sizing());
    if (found) this.thickness.set(found);
  }

  async compareWays(): Promise<void> {
    const found = await this.session()?.run('ways', {}, this.sizing());
    if (found) this.ways.set(found);
  }

  /** What the numbered places on the model are, by what is worked at. */
  readonly pins = computed<readonly ViewPin[]>(() => {
    const tab = this.tab();
    if (tab === 'cuts') return partPins(this.parts(), (i) => this.partName(i));
    if (tab === 'thickness') return metalPins(this.thickness());
    return tab === 'ways' ? wayPins(this.way()) : [];
  });

  partName(i: number): string {
    return this.partNames()[i] || `Part ${String.fromCharCode(65 + i)}`;
  }

  /** Keeps the model with what was measured of it: sends the file where it is not here yet. */
  keep(done: () => void): void {
    const [answer, measured, unit] = [this.answer(), this.measured(), this.unit()];
    if (!answer || !measured || !unit) return;
    const name = this.session()?.name ?? this.kept()?.name ?? 'model';
    const kept = this.isKept() ? this.kept() : undefined;
    const save = (contentId: Id) => {
      const body: SaveModel = {
        id: kept?.id ?? newId(),
        version: kept?.version ?? 0,
        workId: answer.work.id,
        sectionId: this.sectionId(),
        contentId,
        name,
        sizing: { unit, bronzeMm: this.bronzeMm(), axis: this.axis(), rubber: this.rubber() },
        measured,
        planes: this.planes(),
        cutNames: this.parts().map((_, i) => this.partName(i)),
        wayUp: this.way(),
      };
      this.saving.send<AttachmentsAnswer>(
        '/models',
        body,
        () => {
          this.contentId = contentId;
          this.isKept.set(true);
          done();
        },
        { said: 'The model is kept' },
      );
    };
    if (kept) save(kept.contentId);
    else if (this.contentId) save(this.contentId);
    else this.send(answer.work.id, save);
  }

  readonly sending = signal<Id | null>(null);
  readonly upload = computed(() => this.uploads.uploads().find(({ id }) => id === this.sending()));

  private send(workId: Id, save: (contentId: Id) => void): void {
    const [id] = this.uploads.send([this.file!], {
      subject: this.sectionId() ? 'section' : 'work',
      subjectId: this.sectionId() ?? workId,
    });
    this.sending.set(id!);
    const wait = setInterval(() => {
      const upload = this.upload();
      // Hung here already: the same file was sent before.
      const content = upload?.content;
      if (upload && upload.state !== 'done' && !(upload.state === 'failed' && content)) {
        if (upload.state === 'failed') clearInterval(wait);
        return;
      }
      clearInterval(wait);
      if (content) save(content.id);
      if (upload) this.uploads.giveUp(upload.id);
      this.sending.set(null);
    }, 150);
  }

  /** What the server is measuring in this browser's place, and the pictures it made. */
  readonly there = new MeasuredThere();

  /** Lets the server measure the model, where this browser has no memory for it; the figures are the same. */
  measureThere(): void {
    const [answer, session, sizing] = [this.answer(), this.session(), this.sizing()];
    if (!answer || !session || !sizing) return;
    this.cancel();
    const ask = (contentId: Id) => {
      this.contentId = contentId;
      this.there.ask({ id: newId(), contentId, name: session.name, question: sizing }, (job) => {
        if (job.answer) this.fresh.set(job.answer.measured);
        if (job.error) session.wrong.set(job.error);
      });
    };
    if (this.contentId) ask(this.contentId);
    else this.send(answer.work.id, ask);
  }

  end(): void {
    this.there.end();
    this.session()?.end();
  }
}

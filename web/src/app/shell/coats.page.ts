import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { CoatRow, CoatView, CoatsAnswer } from '@kalvet/core';
import { STUCCO_NAMES, SLURRY_NAMES, toMs } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Drawer } from '../shared/drawer.component';
import { RecordMany } from '../route/record-many.component';
import { StepPanel } from '../route/step-panel.component';
import { FigureText } from '../shared/figure.component';
import { Hints } from '../shared/hints.directive';
import { More } from '../shared/more.directive';
import { Roving } from '../shared/roving.directive';
import { Session } from '../shared/session.service';
import { pageData } from '../shared/page-data';
import { PlanStandText } from '../shared/plan-stand.component';
import { WordsPipe } from '../shared/words.pipe';
import { ShopService } from '../shared/shop.service';
import { May } from '../shared/may.directive';
import { AirBand } from './air-band.component';
import { ClimateForm } from './climate-form.component';
import type { Standing } from './coat-rows';
import { groupsOf } from './coat-rows';
import { DryingCard } from './drying-card.component';
import { HangForm } from './hang-form.component';
import { PlacesForm } from './places-form.component';
import { ShellTabs } from './shell-tabs.component';
import { timeTrack } from './time-track';

const ROWS_AT_FIRST = 40;
/** What is said beside a bar stands left of its end where it would run out of the picture. */
const SAYS_LEFT_FROM = 62;

/** The shell room: its air, every tree that is being dipped under it, what is dry, and what has lain too long. */
@Component({
  selector: 'kv-coats',
  imports: [
    AirBand,
    ClimateForm,
    DryingCard,
    HangForm,
    Hints,
    May,
    More,
    PlacesForm,
    Roving,
    RouterLink,
    ButtonModule,
    Drawer,
    FigureText,
    PlanStandText,
    RecordMany,
    ShellTabs,
    StepPanel,
    WordsPipe,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './coats.page.html',
  styleUrl: './coats.page.css',
})
export class CoatsPage {
  protected readonly shop = inject(ShopService);
  private readonly session = inject(Session);
  private readonly page = pageData<CoatsAnswer>(() => '/coats');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly ticked = signal<ReadonlySet<string>>(new Set());
  /** A step, a tree, or a form. */
  protected readonly panel = signal<string | null>(null);

  protected readonly track = computed(() => timeTrack(this.shop.now(), this.shop.zone()));
  private readonly groups = computed(() => groupsOf(this.answer()?.rows ?? [], this.shop.now()));
  private readonly all = computed(() => this.groups().flatMap(({ rows }) => rows));
  protected readonly count = computed(() => this.all().length);
  /** Only what is seen is drawn; the rest comes as one comes near it. */
  private readonly limit = signal(ROWS_AT_FIRST);
  protected readonly left = computed(() => Math.max(0, this.count() - this.limit()));
  protected readonly drawn = computed(() => {
    let room = this.limit();
    return this.groups().flatMap(({ name, stand, rows }) => {
      const shown = rows.slice(0, Math.max(0, room));
      room -= shown.length;
      return shown.length > 0 ? [{ name, stand, all: rows.length, rows: shown.map((each) => this.told(each)) }] : [];
    });
  });
  protected readonly mayRecord = computed(() => this.session.may('record step', 'shell'));
  protected readonly counts = computed(() => {
    const of = (stand: Standing['stand']) => this.all().filter((each) => each.stand === stand).length;
    return { ready: of('ready'), drying: of('drying'), tooOld: of('too old') };
  });
  protected readonly airs = computed(() =>
    (this.answer()?.places ?? [])
      .filter(({ place, readings }) => place.state === 'in use' || readings.length > 0)
      .map((air) => {
        const last = air.readings.at(-1);
        return {
          air,
          place: air.place,
          last,
          words: last
            ? `${this.shop.amount(last.celsius, '°C', 1)}, ${this.shop.amount(last.humidityPercent, '%', 0)}`
            : '',
          kelvin: air.kelvin === null ? '' : `dries at ${this.shop.amount(air.kelvin, 'K', 1)}`,
          age: last ? this.ageOf(last.at, last.source) : '',
          trees: `${air.trees} of ${air.place.hooks} hooks taken`,
        };
      }),
  );
  protected readonly alarms = computed(() =>
    (this.answer()?.places ?? []).flatMap(({ place, alarms }) =>
      alarms.map(({ says }) => ({ place: place.name, text: this.shop.words(says) })),
    ),
  );
  /** The tree whose drying is looked at. */
  protected readonly shown = computed(() => this.answer()?.rows.find(({ treeId }) => treeId === this.panel()));
  protected readonly heading = computed(() => {
    const panel = this.panel();
    if (panel === 'climate') return 'The air';
    if (panel === 'places') return 'Rooms and cabinets';
    if (panel === 'hang') return 'Hang';
    return this.shown() ? 'How it dries' : 'Record';
  });
  /** The next coats of the ticked trees, as they are recorded together. */
  private readonly chosenRows = computed(() => this.all().filter(({ next }) => this.ticked().has(next.stepId)));
  protected readonly chosen = computed(() =>
    this.chosenRows().map(({ row, next }) => ({
      stepId: next.stepId,
      version: next.version,
      kind: next.kind,
      name: next.name,
      on: row.label,
    })),
  );
  protected readonly chosenTrees = computed(() => this.chosenRows().map(({ row }) => row.treeId));

  private ageOf(at: string, source: string): string {
    const minutes = Math.max(0, Math.round((toMs(this.shop.now()) - toMs(at)) / 60_000));
    const how = source === 'sensor' ? 'sensor' : source === 'typed' ? 'typed' : 'from a file';
    return minutes < 120 ? `${how}, ${minutes} min ago` : `${how}, ${this.shop.when(at)}`;
  }

  /** What is said and drawn of a tree. */
  private told(each: Standing) {
    const { row, next } = each;
    const track = this.track();
    const { drying } = row;
    const place = this.answer()!.places.find((air) => air.place.id === (row.hangs?.placeId ?? drying?.placeId))?.place;
    const to = drying ? (drying.dryAt ? track.x(drying.dryAt) : 100) : null;
    const from = drying ? track.x(drying.dippedAt) : null;
    const bar = to !== null && from !== null && to > 0 ? { from, to: Math.max(to, from + 0.6) } : null;
    const weak = row.strength.find(({ share }) => share > 1);
    const dries = this.driesWords(each);
    const saysFrom = bar ? bar.to : track.now;
    return {
      ...each,
      words: this.standWords(each),
      made: [
        next.name.replace(/^(Dip|Seal) coat/, (text) => text.toLowerCase()),
        row.slurry ? SLURRY_NAMES[row.slurry] : '',
        row.stucco && row.stucco !== 'none' ? STUCCO_NAMES[row.stucco] : '',
      ]
        .filter(Boolean)
        .join(' · '),
      beads: this.beadsWords(row),
      hangs: [place?.kind === 'cabinet' ? place.name : '', row.hangs?.hook ?? ''].filter(Boolean).join(', '),
      wall: `${this.shop.amount(row.wall.nowMm, 'mm', 1)} of ${this.shop.amount(row.wall.sealedMm, 'mm', 1)}`,
      weak: weak ? `${weak.part} part too weak: ${weak.coatsMore} coats more or ribs` : '',
      bar,
      old: row.tooOldAt && toMs(row.tooOldAt) < track.until ? track.x(row.tooOldAt) : null,
      dries,
      saysAt: saysFrom > SAYS_LEFT_FROM ? Math.max(0, (bar?.from ?? saysFrom) - 36) : saysFrom + 1.5,
    };
  }

  private driesWords({ row, share }: Standing): string {
    const { drying } = row;
    if (!drying) return row.readyAt ? `from ${this.shop.when(row.readyAt)}` : '';
    if (drying.dryAt === null) return 'nothing dries in this air';
    if ((share ?? 0) >= 1) return `dry since ${this.shop.when(drying.dryAt)}`;
    return `${Math.floor((share ?? 0) * 100)} % dry, ${this.shop.when(row.readyAt ?? drying.dryAt)}`;
  }

  protected more(why: 'near' | 'print'): void {
    this.limit.update((limit) => (why === 'print' ? Infinity : limit + ROWS_AT_FIRST));
  }

  /** What is said of a bead under the pointer or in focus. */
  protected readonly hint = (element: HTMLElement) => {
    const at = element.closest<HTMLElement>('[data-coat]');
    return at ? { at, text: this.coatAt(at) } : undefined;
  };

  private coatAt(bead: HTMLElement): string {
    const [treeId, place] = bead.dataset['coat']!.split(' ');
    return this.coatWords(this.answer()!.rows.find((row) => row.treeId === treeId)!.coats[Number(place)]!);
  }

  /** Who hears the page hears of a bead what others see of it, when they come to it. */
  protected name(bead: HTMLElement): void {
    bead.setAttribute('aria-label', this.coatAt(bead));
  }

  private beadsWords({ coats }: CoatRow): string {
    const dipped = coats.filter(({ state }) => state === 'done').length;
    return `${dipped} of ${coats.length} coats dipped`;
  }

  private standWords({ row, stand }: Standing): string {
    if (stand === 'waits') {
      const words = row.waits.join(', ');
      return words.startsWith('on hold') ? words : `waits for ${words}`;
    }
    if (stand === 'too old') return `too old since ${this.shop.when(row.tooOldAt)}`;
    if (stand === 'drying') return `dries until ${this.shop.when(row.readyAt)}`;
    return row.tooOldAt ? `ready; too old from ${this.shop.when(row.tooOldAt)}` : 'ready';
  }

  private coatWords(coat: CoatView): string {
    if (coat.state !== 'done') return `${coat.name}: ${coat.state === 'next' ? 'next' : 'to come'}`;
    return [
      `${coat.name}: ${this.shop.at(coat.at)}`,
      coat.by.length > 0 ? `by ${coat.by.join(', ')}` : '',
      this.shop.words(coat.readings),
      ...coat.flags,
    ]
      .filter(Boolean)
      .join('; ');
  }

  protected tick(stepId: string, on: boolean): void {
    this.ticked.update((ticked) => {
      const next = new Set(ticked);
      if (on) next.add(stepId);
      else next.delete(stepId);
      return next;
    });
  }

  protected tickReady(): void {
    const ready = this.all().filter(({ stand }) => stand === 'ready');
    this.ticked.set(new Set(ready.map(({ next }) => next.stepId)));
  }

  protected close(): void {
    this.panel.set(null);
  }

  protected recorded(): void {
    this.ticked.set(new Set());
    this.panel.set(null);
  }

  protected read(): void {
    this.page.read();
  }
}

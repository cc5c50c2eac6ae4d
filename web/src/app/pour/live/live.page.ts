import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { HeatReading, InstrumentsAnswer, LiveHeat, Means, PourTree, TemperaturePlace } from '@kalvet/core';
import { alloyOf, minutesBetween, toMs } from '@kalvet/core';
import { catchError, filter, firstValueFrom, of, switchMap, timer } from 'rxjs';
import { ButtonModule } from 'primeng/button';
import { Api } from '../../shared/api.service';
import { newId } from '../../shared/ids';
import { pageData } from '../../shared/page-data';
import { ShopService } from '../../shared/shop.service';
import { AmountPipe } from '../../shared/words.pipe';
import { HeatEnd } from '../heat-end.component';
import { mouldWords } from '../pour-words';
import { Alarm } from './alarm.service';
import { Hold } from './hold.directive';
import type { Queued } from './outbox';
import { Outbox } from './outbox';
import { Rehearsal } from './rehearsal.component';
import { metalStand, shellStand } from './stand';
import { Stopwatch } from './stopwatch';

/** A slip is taken back with one press for so long, seconds. */
const UNDO_S = 60;
const TICK_MS = 200;
const LISTEN_MS = 1000;
/** What an instrument said longer ago says nothing of now, s. */
const FRESH_S = 8;
const SOUND_EVERY_S = 2;
const PLACES = [
  { code: 'furnace', label: 'furnace' },
  { code: 'ladle', label: 'ladle' },
  { code: 'cup', label: 'cup' },
  { code: 'mould', label: 'mould' },
] as const satisfies readonly { readonly code: TemperaturePlace; readonly label: string }[];
const MEANS = [
  { code: 'immersion', label: 'dipped in' },
  { code: 'infrared', label: 'infrared' },
  { code: 'eye', label: 'by eye' },
] as const satisfies readonly { readonly code: Means; readonly label: string }[];
const VENTS = [
  { code: 'all', label: 'all showed' },
  { code: 'some', label: 'some dry' },
  { code: 'dripping', label: 'dripping' },
  { code: 'none', label: 'none' },
] as const;
const OUTCOMES = [
  { code: 'poured', label: 'Full' },
  { code: 'short', label: 'Short' },
  { code: 'run out', label: 'Run out' },
] as const;
/** Why, where it did not go well: said with one press, more words later. */
const WHYS: Readonly<Record<string, readonly string[]>> = {
  short: ['stopped rising', 'metal ran short', 'metal too cold', 'a vent stayed dry'],
  'run out': ['at the shell', 'at a patch', 'at the cup joint'],
  'not poured': ['mould wet', 'mould cracked', 'no metal left', 'shell too cold'],
};

/**
 * A heat while it is poured, for a tablet, gloves and sun: the next tree, its target with the last reading beside it, its shell's
 * clock, the stopwatch, and what came of it. It goes on when the network drops.
 */
@Component({
  selector: 'kv-live',
  imports: [AmountPipe, ButtonModule, HeatEnd, Hold, Rehearsal, RouterLink],
  providers: [Alarm, Outbox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './live.page.html',
  styleUrl: './live.page.css',
})
export class LivePage {
  protected readonly shop = inject(ShopService);
  private readonly api = inject(Api);
  protected readonly box = inject(Outbox);
  private readonly alarm = inject(Alarm);
  readonly id = input.required<string>();
  private readonly page = pageData<LiveHeat>(() => `/heats/${this.id()}/live`);
  protected readonly wrong = this.page.wrong;
  protected readonly answer = this.page.answer;
  protected readonly heat = computed(() => this.answer()?.heat);
  protected readonly alloy = computed(() => alloyOf(this.heat()?.alloyId ?? 'C87300').name);

  protected readonly leaded = computed(() => alloyOf(this.heat()?.alloyId ?? 'C87300').leaded);
  protected readonly places = PLACES;
  protected readonly means = MEANS;
  protected readonly vents = VENTS;
  protected readonly outcomes = OUTCOMES;
  protected readonly watch = new Stopwatch();
  /** The present moment, five times a second: for clocks alone. */
  private readonly tick = signal(Date.now());
  protected readonly now = computed(() => {
    this.tick();
    return this.shop.exactNow();
  });

  constructor() {
    const timer = setInterval(() => this.tick.set(Date.now()), TICK_MS);
    inject(DestroyRef).onDestroy(() => clearInterval(timer));
    void this.alarm.keepAwake();
    effect(() => {
      const id = this.id();
      untracked(() => this.box.open(id));
    });
    this.box.mend = (item) => this.mend(item);
    this.box.sent$.subscribe(() => this.page.read());
    // A shell that goes cold is heard, too.
    let soundedAt = 0;
    effect(() => {
      const urgent = this.shell()?.is === 'too cold';
      const at = this.tick();
      if (!urgent || at - soundedAt < SOUND_EVERY_S * 1000) return;
      soundedAt = at;
      this.alarm.sound();
    });
    // Each tree begins with nothing said of it.
    effect(() => {
      if (this.nextId() !== undefined) untracked(() => this.begin());
    });
  }

  /** Trees in their order, with what is on its way to the records counted as said. */
  protected readonly trees = computed(() => {
    const waiting = this.box.waiting();
    return (this.heat()?.pourings ?? []).map((pouring) => {
      const queued = waiting.find(({ treeId, path }) => treeId === pouring.treeId && path.endsWith('/pour'));
      const out = waiting.find(({ treeId, path }) => treeId === pouring.treeId && path.endsWith('/out'));
      return {
        ...pouring,
        outcome: pouring.outcome ?? (queued?.body['outcome'] as string | undefined) ?? null,
        outAt: pouring.outAt ?? (out?.body['at'] as string | undefined) ?? null,
        queued: queued !== undefined,
      };
    });
  });
  private readonly chosen = signal<string | null>(null);
  protected readonly next = computed(() => {
    const open = this.trees().filter(({ outcome }) => outcome === null);
    return open.find(({ treeId }) => treeId === this.chosen()) ?? open[0];
  });
  /** Changes only where another tree is next, not with every reading. */
  private readonly nextId = computed(() => this.next()?.treeId);
  protected readonly window = computed(() => {
    const next = this.next();
    return next && this.heat()!.windows[next.treeId];
  });
  protected readonly mould = computed(() => (this.window() ? mouldWords(this.window()!, this.shop) : ''));
  protected readonly filling = computed(() => {
    const next = this.next();
    return next && this.heat()!.fillings[next.treeId];
  });

  /** Readings that are kept and those on their way, the newest last. */
  private readonly readings = computed((): readonly HeatReading[] => [
    ...(this.answer()?.readings ?? []),
    ...this.box
      .waiting()
      .filter(({ path }) => path.endsWith('/readings'))
      .map(({ body }) => body as unknown as HeatReading),
  ]);
  /** What instruments say now, read every second while this is looked at; none where none is entered. */
  private readonly heard = toSignal(
    timer(0, LISTEN_MS).pipe(
      filter(() => !document.hidden && !this.box.away()),
      switchMap(() => this.api.get<InstrumentsAnswer>('/instruments').pipe(catchError(() => of(undefined)))),
    ),
  );
  protected readonly instruments = computed(() => {
    const heard = this.heard();
    if (!heard) return [];
    return heard.instruments
      .filter(({ kind, state, where }) => kind !== 'meter' && state === 'in use' && where !== null)
      .map((each) => {
        const agoS = each.last ? (toMs(heard.now) - toMs(each.last.at)) / 1000 : Infinity;
        return { ...each, isFresh: agoS < FRESH_S, doubt: each.last?.doubt ? this.shop.words(each.last.doubt) : '' };
      });
  });

  /** Takes what an instrument shows into the heat: with its name, and how sure it is. */
  protected take({ name, kind, where, plusMinusK, last }: ReturnType<typeof this.instruments>[number]): void {
    const next = this.next();
    if (!last || where === null || kind === 'meter') return;
    const isOfTree = where === 'cup' || where === 'mould';
    const treeId = isOfTree ? (next?.treeId ?? null) : null;
    const celsius = Math.round(last.value);
    this.box.put({
      path: `/heats/${this.id()}/readings`,
      body: {
        id: newId(),
        treeId,
        at: last.at,
        celsius,
        where,
        means: kind === 'infrared' ? 'infrared' : 'immersion',
        instrument: name,
        plusMinusK,
      },
      said: `${name}: ${celsius} °C`,
      treeId,
    });
  }

  /** The last temperature of the metal, beside the next tree's target. */
  protected readonly metal = computed(() => {
    const window = this.window();
    const last = this.readings()
      .filter(({ where }) => where !== 'mould')
      .at(-1);
    if (!last || !window) return undefined;
    const { transferK } = this.shop.settings();
    return {
      ...last,
      place: PLACES.find(({ code }) => code === last.where)!.label,
      by: MEANS.find(({ code }) => code === last.means)!.label,
      ago: Math.max(0, Math.round(minutesBetween(last.at, this.now()) * 60)),
      ...metalStand(window.cup, transferK, last),
    };
  });
  /** The next shell's clock, once it has left the kiln. */
  protected readonly shell = computed(() => {
    const next = this.next();
    const out = next && this.heat()!.kilnOut[next.treeId];
    if (!next?.outAt || !out) return undefined;
    const since = (at: string) => (toMs(at) - toMs(next.outAt!)) / 1000;
    const read = this.readings()
      .filter(({ where, treeId }) => where === 'mould' && treeId === next.treeId)
      .at(-1);
    return shellStand(out, Math.max(0, since(this.now())), read && { celsius: read.celsius, atS: since(read.at) });
  });
  protected readonly isShell = computed(() => {
    const next = this.next();
    return next !== undefined && this.heat()!.kilnOut[next.treeId] !== undefined;
  });
  protected readonly mayPour = computed(() => this.heat()?.coverConfirmedById !== null);
  protected readonly isOver = computed(
    () => this.trees().length > 0 && this.trees().every(({ outcome }) => outcome !== null),
  );

  protected choose(treeId: string): void {
    if (this.watch.running()) return;
    this.chosen.set(treeId);
  }

  // What is said of the tree that was poured.
  protected readonly outcome = signal<string | null>(null);
  protected readonly vent = signal<string | null>(null);
  protected readonly why = signal<string | null>(null);
  protected readonly kg = signal<number | null>(null);
  protected readonly whys = computed(() => WHYS[this.outcome() ?? ''] ?? []);
  protected readonly ready = computed(() => {
    const outcome = this.outcome();
    if (outcome === null || this.watch.running()) return false;
    return outcome === 'poured' || this.why() !== null;
  });

  private begin(): void {
    this.outcome.set(null);
    this.vent.set(null);
    this.why.set(null);
    this.kg.set(null);
    this.watch.reset();
  }

  protected say(outcome: string): void {
    this.outcome.set(outcome);
    this.why.set(null);
    if (outcome !== 'poured') this.alarm.sound();
  }

  protected out(): void {
    const next = this.next();
    if (!next) return;
    this.box.put({
      path: `/heats/${this.id()}/out`,
      body: { treeId: next.treeId, at: this.shop.exactNow() },
      said: `${next.label} out of the kiln`,
      treeId: next.treeId,
    });
  }

  protected record(): void {
    const next = this.next();
    const outcome = this.outcome();
    if (!next || !outcome || !this.ready()) return;
    const person = this.shop.person();
    const metalFlowed = outcome === 'poured' || outcome === 'short';
    const kg = this.kg() ?? Math.round(next.plannedKg * 10) / 10;
    const seconds = this.watch.seconds();
    const last = this.metal();
    const endedAt = this.watch.endedAt() ?? this.shop.exactNow();
    const isFresh = last !== undefined && last.where !== 'furnace' && last.where !== 'mould' && last.ago < 300;
    const body: PourTree = {
      version: this.heat()!.version,
      treeId: next.treeId,
      outcome,
      startedAt: this.watch.startedAt(),
      endedAt,
      by: person ? [person.id] : [],
      readings: {
        ...(metalFlowed ? { pouredKg: kg } : {}),
        ...(metalFlowed && seconds !== null ? { seconds: Math.max(0.5, seconds) } : {}),
        ...(metalFlowed && this.vent() !== null ? { vents: this.vent() } : {}),
        // What was read at this cup is kept with its pour.
        ...(isFresh && outcome !== 'not poured' ? { metalC: Math.round(last.celsius), tempWhere: last.where } : {}),
      },
      taken: metalFlowed && this.kg() === null ? ['pouredKg'] : [],
      note: this.why() ?? '',
    };
    this.box.put({
      path: `/heats/${this.id()}/pour`,
      body: body as unknown as Queued['body'],
      said: `${next.label}: ${outcome}`,
      treeId: next.treeId,
    });
    this.chosen.set(null);
    this.recorded.set({ at: Date.now(), label: `${next.label}: ${outcome}`, treeId: next.treeId });
  }

  /** What was said last of a tree, and how long it is taken back with one press. */
  protected readonly recorded = signal<{ readonly at: number; readonly label: string; readonly treeId: string } | null>(
    null,
  );
  protected readonly undoLeft = computed(() => {
    const recorded = this.recorded();
    return recorded === null ? 0 : Math.max(0, Math.ceil(UNDO_S - (this.tick() - recorded.at) / 1000));
  });

  protected undo(): void {
    const recorded = this.recorded();
    if (!recorded) return;
    const queued = this.box.waiting().find(({ treeId, path }) => treeId === recorded.treeId && path.endsWith('/pour'));
    this.recorded.set(null);
    if (queued && this.box.drop(queued.key)) return;
    const event = (this.answer()?.undo ?? []).find(({ treeId }) => treeId === recorded.treeId);
    if (event)
      this.box.put({
        path: `/changes/${event.number}/take-back`,
        body: { reason: 'a slip at the furnace' },
        said: `${recorded.label} taken back`,
        treeId: null,
      });
  }

  /** A record that somebody else's made stale: with the heat as it is now; null where it says the same already. */
  private async mend(item: Queued): Promise<Queued | null> {
    const now = await firstValueFrom(this.api.get<LiveHeat>(`/heats/${this.id()}/live`));
    const tree = now.heat.pourings.find(({ treeId }) => treeId === item.treeId);
    if (item.path.endsWith('/pour') && tree && tree.outcome !== null) return null;
    return { ...item, body: { ...item.body, version: now.heat.version } };
  }

  // The keypad: a temperature, or kilograms.
  protected readonly pad = signal<'celsius' | 'kg' | null>(null);
  protected readonly typed = signal('');
  protected readonly place = signal<TemperaturePlace>('furnace');
  protected readonly by = signal<Means>('immersion');
  protected readonly keys = ['7', '8', '9', '4', '5', '6', '1', '2', '3', ',', '0', '⌫'];

  protected openPad(what: 'celsius' | 'kg'): void {
    this.typed.set('');
    this.pad.set(what);
  }

  protected press(key: string): void {
    if (key === '⌫') this.typed.update((text) => text.slice(0, -1));
    else if (key !== ',' || !this.typed().includes(','))
      this.typed.update((text) => (text.length < 6 ? text + key : text));
  }

  protected enter(): void {
    const value = Number(this.typed().replace(',', '.'));
    const what = this.pad();
    if (this.typed() === '' || Number.isNaN(value)) return;
    this.pad.set(null);
    if (what === 'kg') return this.kg.set(value);
    const next = this.next();
    const place = this.place();
    const isOfTree = place === 'cup' || place === 'mould';
    this.box.put({
      path: `/heats/${this.id()}/readings`,
      body: {
        id: newId(),
        treeId: isOfTree ? (next?.treeId ?? null) : null,
        at: this.shop.exactNow(),
        celsius: this.inCelsius(value),
        where: place,
        means: this.by(),
        instrument: '',
      },
      said: `${value} read`,
      treeId: isOfTree ? (next?.treeId ?? null) : null,
    });
  }

  /** What was typed in the reader's own unit. */
  private inCelsius(value: number): number {
    return this.shop.sign('°C') === '°F' ? Math.round(((value - 32) / 1.8) * 10) / 10 : value;
  }

  // When it goes wrong.
  protected readonly wrongNow = signal(false);
  protected readonly card = computed(() => this.shop.settings().pourCard);

  protected callWrong(): void {
    this.wrongNow.set(true);
    this.alarm.sound();
  }

  protected read(): void {
    this.page.read();
  }
}

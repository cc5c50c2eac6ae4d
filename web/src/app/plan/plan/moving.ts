import { computed, inject, signal } from '@angular/core';
import type { Instant, Lane, LaneBar, MoveSteps, PinKind, PlanRow, Reach } from '@kalvet/core';
import { instantAt, fromMs } from '@kalvet/core';
import { EMPTY, Subject, catchError, switchMap } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Api, asApiError } from '../../shared/api.service';
import { Session } from '../../shared/session.service';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { breaksOf, endAt } from './move-breaks';

/** Work that is chosen, and where it is being moved to. */
export interface Chosen {
  readonly bar: LaneBar;
  readonly lane: Lane;
  readonly at: Instant;
}

/** A move that was made, and what each step had before. */
interface Made {
  readonly words: string;
  readonly back: MoveSteps['steps'];
}

/** When planned work begins. */
export const beginOf = ({ spells }: LaneBar): Instant => spells[0]![0];

/** Moving planned work by drag or keys: what is chosen, what the move would break, saving it, and taking it back. */
export class Moving {
  private readonly api = inject(Api);
  private readonly shop = inject(ShopService);
  private readonly session = inject(Session);
  readonly sending = new Submission();
  readonly chosen = signal<Chosen | undefined>(undefined);
  /** Undefined while it is asked for. */
  private readonly reach = signal<Reach | undefined>(undefined);
  /** Let go of before it was known what the move breaks: saved once that is known, if it may be. */
  private isWanted = false;
  private readonly made = signal<readonly Made[]>([]);
  private readonly asked = new Subject<LaneBar>();
  readonly last = computed(() => this.made().at(-1));

  /** @param rows the pieces of the plan */
  constructor(private readonly rows: () => readonly PlanRow[]) {
    this.asked
      .pipe(
        switchMap(({ steps }) =>
          this.api.get<Reach>(`/plan/reach?steps=${steps.map(({ id }) => id).join(',')}`).pipe(
            catchError((failure: unknown) => {
              this.sending.error.set(asApiError(failure));
              return EMPTY;
            }),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((reach) => {
        this.reach.set(reach);
        if (this.isWanted) this.save();
        this.isWanted = false;
      });
  }

  readonly mayMove = computed(() => this.session.may('pin step'));
  readonly isMoved = computed(() => {
    const chosen = this.chosen();
    return chosen !== undefined && chosen.at !== beginOf(chosen.bar);
  });
  readonly end = computed(() => {
    const chosen = this.chosen();
    return chosen ? endAt(chosen.bar, chosen.at) : '';
  });
  readonly breaks = computed(() => {
    const chosen = this.chosen();
    if (!chosen || !this.isMoved()) return [];
    const pieces = new Set(chosen.bar.pieceIds);
    const asked = {
      ...chosen,
      now: this.shop.now(),
      zone: this.shop.zone(),
      reach: this.reach(),
      rows: this.rows().filter(({ pieceId }) => pieces.has(pieceId)),
    };
    return breaksOf(asked, this.shop);
  });
  readonly isAsking = computed(() => this.reach() === undefined);
  readonly isAllowed = computed(
    () => this.isMoved() && this.mayMove() && !this.isAsking() && !this.breaks().some(({ isHard }) => isHard),
  );

  choose(bar: LaneBar, lane: Lane): void {
    if (this.chosen()?.bar === bar) return;
    this.reach.set(undefined);
    this.isWanted = false;
    this.sending.reset();
    this.chosen.set({ bar, lane, at: beginOf(bar) });
    this.asked.next(bar);
  }

  letGo(): void {
    this.isWanted = false;
    this.chosen.set(undefined);
    this.sending.reset();
  }

  /** @param wallMs where on the axis it shall begin */
  moveTo(wallMs: number): void {
    const chosen = this.chosen();
    if (!chosen || !this.mayMove()) return;
    const text = fromMs(wallMs);
    const [hour, minute] = [Number(text.slice(11, 13)), Number(text.slice(14, 16))];
    this.chosen.set({ ...chosen, at: instantAt({ day: text.slice(0, 10), hour, minute }, this.shop.zone()) });
  }

  /** Back to where it is planned. */
  moveBack(): void {
    const chosen = this.chosen();
    if (chosen) this.chosen.set({ ...chosen, at: beginOf(chosen.bar) });
  }

  save(): void {
    const chosen = this.chosen();
    this.isWanted = chosen !== undefined && this.isMoved() && this.isAsking();
    if (chosen && this.isAllowed()) this.send(chosen.bar, 'at', chosen.at, `pinned to ${this.shop.when(chosen.at)}`);
  }

  unpin(): void {
    const chosen = this.chosen();
    if (chosen && this.mayMove()) this.send(chosen.bar, null, null, 'left to the plan');
  }

  undo(): void {
    const last = this.last();
    if (!last) return;
    this.sending.send(
      '/plan/moves',
      { steps: last.back },
      () => {
        this.made.update((all) => all.slice(0, -1));
        this.letGo();
      },
      { said: 'Taken back; the plan follows' },
    );
  }

  private send(bar: LaneBar, kind: PinKind | null, at: Instant | null, words: string): void {
    const body: MoveSteps = { steps: bar.steps.map(({ id, version }) => ({ id, version, kind, at })) };
    this.sending.send('/plan/moves', body, () => {
      // Each write makes a step one version newer.
      const back = bar.steps.map((step) => ({
        id: step.id,
        version: step.version + 1,
        kind: step.pinKind,
        at: step.pinAt,
      }));
      this.made.update((all) => [...all, { words: `${bar.what} · ${bar.on}: ${words}`, back }]);
      this.letGo();
    });
  }
}

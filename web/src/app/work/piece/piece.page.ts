import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { Router, RouterLink } from '@angular/router';
import type { PieceAnswer, Room, StepView } from '@kalvet/core';
import { METHOD_NAMES, PRIORITY_WORDS, ROOM_NAMES, alloyOf, isOpen, markOf, questionOf } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { catchError, debounceTime, merge, of, Subject, switchMap, tap } from 'rxjs';
import { Part } from '../../route/part.directive';
import { STEP_PARTS } from '../../route/parts';
import { NextSteps } from '../next-steps.component';
import { StepRecord } from './step-record.component';
import { StepPanel } from '../../route/step-panel.component';
import { InsertStep } from '../../route/insert-step.component';
import { Api, asApiError } from '../../shared/api.service';
import { Disc } from '../../shared/disc.component';
import { Files } from '../../files/files.component';
import { FigureText } from '../../shared/figure.component';
import { Question } from '../../shared/question.component';
import { PlanStandText } from '../../shared/plan-stand.component';
import { LikelyText } from '../../shared/likely.component';
import { Live } from '../../shared/live.service';
import { pieceInWords } from '../../shared/piece-words';
import { RAIL, roomColour } from '../../shared/rooms';
import { WordsPipe } from '../../shared/words.pipe';
import { WAY_INTO } from '../../shared/way-into';
import { Session } from '../../shared/session.service';
import { ShopService } from '../../shared/shop.service';
import { History } from './history.component';
import { Lanes } from './lanes.component';
import { LoseCast } from './lose-cast.component';
import { PieceActions } from './piece-actions.component';
import { WeightsChart } from './weights-chart.component';
import { May } from '../../shared/may.directive';

/** A piece's passport. */
@Component({
  selector: 'kv-piece',
  imports: [
    May,
    WordsPipe,
    RouterLink,
    ButtonModule,
    Disc,
    Files,
    FigureText,
    History,
    InsertStep,
    Lanes,
    LikelyText,
    LoseCast,
    Part,
    PieceActions,
    PlanStandText,
    Question,
    NextSteps,
    StepPanel,
    StepRecord,
    WeightsChart,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './piece.page.html',
  styleUrl: './piece.page.css',
})
export class PiecePage {
  private readonly api = inject(Api);
  private readonly title = inject(Title);
  private readonly router = inject(Router);
  protected readonly shop = inject(ShopService);
  protected readonly turns = PRIORITY_WORDS;
  private readonly again = new Subject<void>();
  readonly id = input.required<string>();
  /** The step whose panel is open, in the address. */
  readonly step = input<string>();

  private readonly session = inject(Session);
  protected readonly seesPlan = computed(() => this.session.reads('plan'));
  protected readonly questions = computed(() =>
    (this.answer()?.piece.decisions ?? []).map((each) => questionOf(each, null)),
  );
  protected readonly answer = signal<PieceAnswer | undefined>(undefined);
  protected readonly wrong = signal('');
  protected readonly parts = inject(STEP_PARTS);
  protected readonly changed = { changed: () => this.read() };
  protected readonly wayInto = inject(WAY_INTO);
  protected readonly colour = roomColour;
  protected readonly roomName = ROOM_NAMES;
  protected readonly methodName = METHOD_NAMES;

  protected readonly mark = computed(() => (this.answer() ? markOf(this.answer()!.piece) : ''));
  protected readonly words = computed(() =>
    this.answer() ? pieceInWords(this.answer()!.work.title, this.answer()!.piece, this.shop.today()) : '',
  );
  protected readonly alloy = computed(() => alloyOf(this.answer()?.work.alloyId ?? 'C87300').name);
  protected readonly nextIds = computed(() => new Set((this.answer()?.piece.next ?? []).map(({ stepId }) => stepId)));
  protected readonly allSteps = computed(() => [
    ...(this.answer()?.lanes ?? []).flatMap(({ attempts }) => attempts.flatMap(({ steps }) => steps)),
    ...(this.answer()?.pieceSteps ?? []),
  ]);
  private readonly loaded = computed(() => this.answer() !== undefined);
  /**
   * A step that was over when it was opened is shown, not recorded again. A panel that is open stays as it is when somebody
   * else records the step meanwhile: what was typed must not vanish.
   */
  protected readonly looked = linkedSignal<string, StepView | undefined>({
    source: () => `${this.step() ?? ''} ${this.loaded()}`,
    computation: () => {
      const step = untracked(this.allSteps).find(({ id }) => id === this.step());
      return step && !isOpen(step) ? step : undefined;
    },
  });
  /** Recorded a moment ago, and still in the list that was read before: whoever presses Enter again must not open it. */
  private readonly past = linkedSignal<PieceAnswer | undefined, string | undefined>({
    source: this.answer,
    computation: () => undefined,
  });
  protected readonly next = computed(() =>
    (this.answer()?.piece.next ?? []).filter(({ stepId }) => stepId !== this.past()),
  );
  private readonly now = viewChild<ElementRef<HTMLElement>>('now');
  protected readonly rail = computed(() => RAIL.map((room) => ({ room, text: this.roomText(room) })));

  constructor() {
    const id$ = toObservable(this.id).pipe(tap(() => this.answer.set(undefined)));
    merge(id$, inject(Live).changed$, this.again)
      .pipe(
        debounceTime(60),
        switchMap(() =>
          this.api.get<PieceAnswer>(`/pieces/${this.id()}`).pipe(
            tap(() => this.wrong.set('')),
            catchError((failure: unknown) => {
              this.wrong.set(asApiError(failure).message);
              return of(undefined);
            }),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((answer) => {
        if (!answer || answer.piece.id !== this.id()) return;
        this.answer.set(answer);
        this.title.setTitle(`${answer.work.title} ${markOf(answer.piece)} · Kalvet`);
      });
  }

  protected read(): void {
    this.again.next();
  }

  protected recorded(): void {
    this.past.set(this.step());
    this.open(null);
    this.read();
  }

  protected open(stepId: string | null): void {
    // What comes next is in sight again when a record is made.
    this.now()?.nativeElement.scrollIntoView({ block: 'nearest' });
    void this.router.navigate([], { queryParams: { step: stepId }, queryParamsHandling: 'merge' });
  }

  /** When the plan has each step. */
  protected readonly planned = computed(
    () => new Map(this.allSteps().map(({ id, plannedStart }) => [id, plannedStart] as const)),
  );

  /** What the rail says of this piece in a room: which sections are there, or when the room was left. */
  private roomText(room: Room): string {
    const answer = this.answer();
    if (!answer) return '';
    const here = answer.piece.sections.filter((section) => section.room === room);
    if (here.length > 0) return answer.piece.sections.length === 1 ? 'here' : here.map(({ name }) => name).join(', ');
    const steps = this.allSteps().filter((step) => step.room === room && step.state !== 'void');
    const ended = steps.filter((step) => !isOpen(step)).map(({ endedAt }) => endedAt ?? '');
    if (ended.length === 0 || steps.some(isOpen)) return '';
    return `done ${this.shop.day(ended.sort().at(-1)!.slice(0, 10))}`;
  }
}

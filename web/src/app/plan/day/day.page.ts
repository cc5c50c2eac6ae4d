import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import type { DayAnswer, DayLine, Room } from '@kalvet/core';
import { ROOMS, ROOM_NAMES, addDays, addMinutes, dayIn, formatDay, formatTime } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Drawer } from '../../shared/drawer.component';
import { StepPanel } from '../../route/step-panel.component';
import { More } from '../../shared/more.directive';
import { Roving } from '../../shared/roving.directive';
import { pageData } from '../../shared/page-data';
import { PlanStandText } from '../../shared/plan-stand.component';
import { Question } from '../../shared/question.component';
import { RAIL, roomColour } from '../../shared/rooms';
import { Session } from '../../shared/session.service';
import { ShopService } from '../../shared/shop.service';
import { WordsPipe } from '../../shared/words.pipe';
import { RecordMany } from '../../route/record-many.component';
import { roomSheets, sheetWords } from './day-groups';
import type { Due } from './day-groups';

const DUE_WORDS: Readonly<Record<Due, string>> = {
  overdue: 'Overdue',
  running: 'Begun',
  now: 'To do now',
  today: 'Comes due',
  'other day': 'Could be begun; planned for another day',
  waits: 'Waits',
};

/** The dearest come first; the kiln and the furnace must stay in sight under them. */
const QUESTIONS_AT_FIRST = 4;
const LINES_AT_FIRST = 60;

/** Today by room: what to do now, what comes due, what is overdue; ticked off here, and printed on a page a room. */
@Component({
  selector: 'kv-day',
  imports: [RouterLink, ButtonModule, More, Roving, Drawer, PlanStandText, Question, RecordMany, StepPanel, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './day.page.html',
  styleUrl: './day.page.css',
})
export class DayPage {
  private readonly router = inject(Router);
  protected readonly shop = inject(ShopService);
  protected readonly session = inject(Session);
  private readonly query = toSignal(inject(ActivatedRoute).queryParamMap);
  private readonly asked = computed(() => this.query()?.get('day') ?? null);
  private readonly page = pageData<DayAnswer>(() => (this.asked() ? `/day?day=${this.asked()}` : '/day'));

  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly colour = roomColour;
  /** Rooms where what is planned for other days is shown too. */
  protected readonly unfolded = signal<ReadonlySet<Room>>(new Set());

  protected readonly roomName = ROOM_NAMES;
  protected readonly dueWords = DUE_WORDS;

  protected readonly room = computed(() => {
    const room = this.query()?.get('room') as Room | null | undefined;
    return room && ROOMS.includes(room) ? room : null;
  });
  /** `Mon 23 Nov, today`. */
  protected readonly dayWords = computed(() => {
    const { day, today } = this.answer() ?? {};
    if (!day) return '';
    const text = formatDay(day, today ?? day);
    return day === today ? `${text}, today` : text;
  });
  protected readonly stepId = computed(() => this.query()?.get('step') ?? null);
  private readonly sheets = computed(() =>
    roomSheets(this.answer()?.lines ?? [], this.shop.now(), this.answer()?.dayEnd ?? ''),
  );
  protected readonly rail = computed(() => {
    const rooms = this.sheets().some(({ room }) => room === 'out') ? [...RAIL, 'out' as const] : RAIL;
    return rooms.map((room) => {
      const sheet = this.sheets().find((each) => each.room === room);
      return { room, text: sheet ? sheetWords(sheet) : '–', overdue: sheet?.counts.overdue ?? 0 };
    });
  });
  /** Only what is seen is drawn; the rest comes as one comes near it. */
  private readonly limit = signal(LINES_AT_FIRST);
  protected readonly shown = computed(() => {
    let room = this.limit();
    return this.all().map((sheet) => ({
      ...sheet,
      groups: sheet.groups.map((group) => {
        const drawn = this.linesOf(group, sheet.room).slice(0, Math.max(0, room));
        room -= drawn.length;
        return { ...group, drawn };
      }),
    }));
  });
  /** Lines that are not drawn yet. */
  protected readonly hidden = computed(() => {
    const lines = this.all().flatMap((sheet) => sheet.groups.flatMap((group) => this.linesOf(group, sheet.room)));
    return Math.max(0, lines.length - this.limit());
  });
  private readonly all = computed(() =>
    this.sheets()
      .filter(({ room }) => this.room() === null || room === this.room())
      .map((sheet) => ({
        ...sheet,
        groups: (Object.keys(DUE_WORDS) as Due[])
          .map((due) => ({ due, lines: sheet.lines.filter((each) => each.due === due) }))
          .filter(({ lines }) => lines.length > 0),
      })),
  );
  protected readonly questions = computed(() => this.answer()?.questions ?? []);
  protected readonly allQuestions = signal(false);
  protected readonly questionsShown = computed(() =>
    this.allQuestions() ? this.questions() : this.questions().slice(0, QUESTIONS_AT_FIRST),
  );
  /** Fires of the next days, today's first. */
  protected readonly fires = computed(() => (this.answer()?.timetable ?? []).slice(0, 12));

  /** What is ticked, by step; only steps of one kind can be recorded together. */
  protected readonly ticked = signal<ReadonlySet<string>>(new Set());
  protected readonly together = signal(false);
  protected readonly chosen = computed(() =>
    (this.answer()?.lines ?? []).filter(({ stepId }) => this.ticked().has(stepId)),
  );

  protected more(why: 'near' | 'print'): void {
    this.limit.update((limit) => (why === 'print' ? Infinity : limit + LINES_AT_FIRST));
  }

  protected unfold(room: Room): void {
    this.unfolded.update((rooms) => new Set([...rooms, room]));
  }

  private linesOf<T>({ due, lines }: { readonly due: Due; readonly lines: readonly T[] }, room: Room): readonly T[] {
    return due === 'other day' && !this.unfolded().has(room) ? [] : lines;
  }

  protected mayTick(line: DayLine): boolean {
    const kind = this.chosen()[0]?.kind;
    return line.through === null && !line.after && (kind === undefined || kind === line.kind);
  }

  protected tick(line: DayLine, on: boolean): void {
    this.ticked.update((ticked) => {
      const next = new Set(ticked);
      if (on) next.add(line.stepId);
      else next.delete(line.stepId);
      return next;
    });
  }

  protected tickAll(lines: readonly { readonly line: DayLine }[]): void {
    const kind = lines.find(({ line }) => line.through === null && !line.after)?.line.kind;
    this.ticked.set(
      new Set(lines.filter(({ line }) => line.kind === kind && !line.after).map(({ line }) => line.stepId)),
    );
  }

  protected untick(): void {
    this.ticked.set(new Set());
    this.together.set(false);
  }

  protected read(): void {
    this.page.read();
  }

  /** The sheet of another day, so many days on. */
  protected turn(days: number): void {
    const day = this.answer()?.day;
    if (!day) return;
    void this.router
      .navigate([], { queryParams: { day: addDays(day, days) }, queryParamsHandling: 'merge' })
      .then(() => this.page.read());
  }

  protected setRoom(room: Room | null): void {
    void this.router.navigate([], { queryParams: { room }, queryParamsHandling: 'merge' });
  }

  protected open(stepId: string | null): void {
    void this.router.navigate([], { queryParams: { step: stepId }, queryParamsHandling: 'merge' });
  }

  protected closePanel(): void {
    this.together.set(false);
    this.open(null);
  }

  protected hour(at: string | null, due: Due): string {
    if (due === 'now' || due === 'overdue' || at === null) return due === 'running' ? '' : 'now';
    const zone = this.shop.zone();
    if (dayIn(at, zone) === this.answer()?.day) return formatTime(at, zone);
    return due === 'other day' ? this.shop.planned(at) : this.shop.when(at);
  }

  /** What is to be said beside a line: too old, drying until, which load, the heat. */
  protected says(line: DayLine): string {
    if (line.after) return line.waits.length > 0 ? `after ${line.waits.join(', ')}` : '';
    if (line.tooOldAt !== null && line.tooOldAt < this.shop.now())
      return `too old since ${this.shop.when(line.tooOldAt)}`;
    const parts = [
      line.readyAt !== null && line.readyAt > this.shop.now() ? `from ${this.shop.when(line.readyAt)}` : '',
      // Only what comes near: every green coat has its end.
      line.tooOldAt !== null && line.tooOldAt < this.soon() ? `too old from ${this.shop.when(line.tooOldAt)}` : '',
      line.plannedEnd !== null && line.state === 'running' ? `to end ${this.shop.planned(line.plannedEnd)}` : '',
    ];
    return parts.filter(Boolean).join(', ');
  }

  /** A maximum wait is worth a word when it ends within a day and a half: overnight nobody works. */
  private readonly soon = computed(() => addMinutes(this.shop.now(), 36 * 60));

  protected print(): void {
    window.print();
  }
}

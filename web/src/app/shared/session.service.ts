import { Injectable, computed, inject, signal } from '@angular/core';
import { HttpClient } from '@angular/common/http';
import type { Gate, PageRead, Right, Room, SessionAnswer, Sight, StepKindCode } from '@kalvet/core';
import { ROOM_NAMES, kindOf, mayAnswer, mayDo, mayPass, mayRead, maySee } from '@kalvet/core';
import { catchError, from, of, retry, switchMap, tap } from 'rxjs';
import type { Observable } from 'rxjs';
import { takeEarly } from './early';

const WAS_IN = 'kalvet.in';

/** Whether somebody was signed in at this browser last: then it is worth reading before it is asked. */
export const wasIn = (): boolean => {
  try {
    return localStorage.getItem(WAS_IN) === '1';
  } catch {
    return false;
  }
};

function rememberIn(is: boolean): void {
  try {
    localStorage.setItem(WAS_IN, is ? '1' : '0');
  } catch {
    return;
  }
}

/** Who is signed in at this browser, and what they may. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly http = inject(HttpClient);
  private readonly answer = signal<SessionAnswer | undefined>(undefined);
  /** Somebody was signed in on this page, and is no more: what they typed still stands in it. */
  readonly ended = signal(false);

  /** How the browser stands since its session ended, under a page that still stands. */
  private readonly offered = signal<SessionAnswer | undefined>(undefined);

  readonly stand = this.answer.asReadonly();
  /** Who may sign in, and how. */
  readonly offer = computed(() => (this.ended() ? (this.offered() ?? this.answer()) : this.answer()));
  readonly state = computed(() => this.answer()?.state);
  readonly isIn = computed(() => this.state() === 'in');
  /** As it was at signing in; what changes since is on the shop's list. */
  readonly person = computed(() => this.answer()?.person ?? undefined);
  readonly demo = computed(() => this.answer()?.demo === true);
  readonly how = computed(() => this.answer()?.how ?? undefined);
  readonly token = computed(() => this.answer()?.token ?? '');

  /** Asks how this browser stands; again and again while nobody answers. */
  read(): Observable<SessionAnswer> {
    const asked = this.http.get<SessionAnswer>('/api/session').pipe(retry({ delay: 2000 }));
    const early = takeEarly('/session');
    const first = early
      ? from(early).pipe(switchMap((answer) => (answer === undefined ? asked : of(answer as SessionAnswer))))
      : asked;
    return first.pipe(
      tap((answer) => {
        const before = this.answer()?.person?.id;
        // Whoever signs in over somebody else's page begins with a page of their own.
        if (this.ended() && answer.person && before !== answer.person.id) return location.reload();
        if (this.ended() && answer.person === null) return;
        this.ended.set(false);
        rememberIn(answer.state === 'in');
        this.answer.set(answer);
      }),
    );
  }

  /** The server knows this session no more. */
  lost(): void {
    if (!this.isIn() || this.ended()) return;
    this.ended.set(true);
    // Who may sign in here now: on a room's tablet that is asked anew.
    this.http.get<SessionAnswer>('/api/session').subscribe({
      next: (answer) => this.offered.set(answer),
      error: () => undefined,
    });
  }

  /** Signs out; the page begins anew, so that nothing of it stays for the next one. */
  signOut(): void {
    this.http
      .post('/api/session/end', {})
      .pipe(catchError(() => of(undefined)))
      .subscribe(() => location.assign('/'));
  }

  /** The page anew, as whoever is signed in now sees it. */
  startAnew(): void {
    location.reload();
  }

  may = (right: Right, room?: Room | null): boolean => mayDo(this.person(), right, room);
  mayPass = (rule: string): boolean => mayPass(this.person(), rule);
  answersFor = (gate: Gate): boolean => mayAnswer(this.person(), gate);
  /** Who records a kind of step, in words; empty where it is whoever is signed in: by its room, its heat or load, or by name. */
  whoElse(code: StepKindCode): string {
    const { through, room, answeredFor } = kindOf(code);
    if (through === 'heat') return this.may('pour') || this.may('plan heat') ? '' : 'by a pour lead';
    if (!this.may(through === 'load' ? 'plan load' : 'record step', room))
      return `by the ${ROOM_NAMES[room].toLowerCase()} room`;
    return !through && answeredFor && !this.answersFor(answeredFor) ? 'by who answers for it' : '';
  }
  sees = (sight: Sight): boolean => maySee(this.person(), sight);
  reads = (page: PageRead): boolean => mayRead(this.person(), page);
}

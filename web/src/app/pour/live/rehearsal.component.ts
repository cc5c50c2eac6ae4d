import { ChangeDetectionStrategy, Component, computed, effect, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { PracticeAnswer } from '@kalvet/core';
import { Subject, catchError, filter, merge, of, switchMap, timer } from 'rxjs';
import { Api } from '../../shared/api.service';
import { Submission } from '../../shared/submission';
import { WordsPipe } from '../../shared/words.pipe';
import { Alarm } from './alarm.service';

const ASK_MS = 1000;

/** What a rehearsal is about, what happens while it is poured, and afterwards what came of it and why. */
@Component({
  selector: 'kv-rehearsal',
  imports: [WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (answer(); as a) {
      <section [class.over]="a.outcome !== null">
        <h2>Rehearsal: {{ a.scenario.title }}</h2>
        @if (a.startedAt === null) {
          <p>{{ a.scenario.about }} Nothing of this is in earnest; the figures are.</p>
          <button type="button" data-test="begin-rehearsal" [disabled]="sending.busy()" (click)="begin()">
            Begin: the crucible leaves the furnace
          </button>
        } @else if (a.outcome === null) {
          <ul aria-live="assertive">
            @for (event of a.events; track event.text; let last = $last) {
              <li [class.now]="last">{{ event.order ? 'Tree ' + event.order + ': ' : '' }}{{ event.text }}</li>
            } @empty {
              <li>The metal cools. {{ a.scenario.about }}</li>
            }
          </ul>
        } @else {
          <p>
            <b
              >{{ right() }} of {{ a.outcome.length }} decided right{{
                misses() > 0 ? ', ' + misses() + ' near ' + (misses() === 1 ? 'miss' : 'misses') : ', nobody near harm'
              }}.</b
            >
          </p>
          <table>
            <tbody>
              @for (tree of a.outcome; track tree.treeId) {
                <tr [class.wrong]="!tree.right">
                  <th scope="row">{{ tree.order }}. {{ tree.label }}</th>
                  <td>{{ tree.came }}</td>
                  <td>{{ tree.why | words }}</td>
                </tr>
              }
            </tbody>
          </table>
        }
      </section>
    }
  `,
  styles: `
    section {
      display: grid;
      gap: 8px;
      padding: 12px 14px;
      font-size: 1.1rem;
      background: var(--kv-warn-pale);
      border-left: 6px solid var(--kv-accent);
    }
    button {
      min-height: 64px;
      font: inherit;
      font-size: 1.3rem;
      font-weight: 600;
      color: var(--kv-on-head);
      background: var(--kv-head);
      border: 0;
      cursor: pointer;
    }
    .now {
      padding: 8px 10px;
      font-size: 1.3rem;
      font-weight: 600;
      color: #fff;
      background: var(--kv-alert);
    }
    table {
      border-collapse: collapse;
    }
    th,
    td {
      padding: 4px 12px 4px 0;
      text-align: left;
      vertical-align: top;
      font-weight: 400;
      border-top: 1px solid var(--kv-line-strong);
    }
    th,
    td:nth-child(2) {
      font-weight: 600;
      white-space: nowrap;
    }
    .wrong td:nth-child(2) {
      color: var(--kv-alert);
    }
  `,
})
export class Rehearsal {
  private readonly api = inject(Api);
  private readonly alarm = inject(Alarm, { optional: true });
  protected readonly sending = new Submission();
  private readonly again = new Subject<void>();
  protected readonly answer = toSignal(
    merge(timer(0, ASK_MS), this.again).pipe(
      switchMap(() => this.api.get<PracticeAnswer>('/practice').pipe(catchError(() => of(undefined)))),
      filter((found) => found !== undefined),
    ),
  );
  protected readonly right = computed(() => (this.answer()?.outcome ?? []).filter((tree) => tree.right).length);
  protected readonly misses = computed(() => (this.answer()?.outcome ?? []).filter((tree) => tree.nearMiss).length);
  private readonly happened = computed(() => this.answer()?.events.length ?? 0);

  constructor() {
    // What happens is heard, not only seen.
    effect(() => {
      if (this.happened() > 0) this.alarm?.sound();
    });
  }

  protected begin(): void {
    this.sending.send('/practice/begin', {}, () => this.again.next());
  }
}

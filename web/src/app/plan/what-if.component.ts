import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import type { WhatIf } from '@kalvet/core';
import { EMPTY, expand, switchMap, timer } from 'rxjs';
import { Api, asApiError } from '../shared/api.service';
import { ShopService } from '../shared/shop.service';

const MOST = 8;
const ASK_AGAIN_MS = 1000;

/** An answer, or the place in the queue. */
type Asked = WhatIf | { readonly place: number; readonly ticket: string };

/** What an outcome would do to the dates, before it is taken. */
@Component({
  selector: 'kv-what-if',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div role="status">
      @if (wrong()) {
        <p class="kv-alert">{{ wrong() }}</p>
      } @else if (answer(); as found) {
        @if (!found.feasible) {
          <p>The planner finds no dates with this.</p>
        } @else if (found.pieces.length === 0) {
          <p>No piece would be out half a day later or sooner.</p>
        } @else {
          <b>What it does to the dates</b>
          <ul>
            @for (piece of told(); track piece.pieceId) {
              <li>
                {{ piece.label }}: {{ piece.before ? 'out ' + shop.dayOf(piece.before) : 'not planned' }} →
                <b>{{ piece.after ? shop.dayOf(piece.after) : 'not planned' }}</b>
                @if (piece.lateDays > 0) {
                  <span class="kv-alert">, {{ piece.lateDays }} {{ piece.lateDays === 1 ? 'day' : 'days' }} late</span>
                }
              </li>
            }
            @if (found.pieces.length > told().length) {
              <li class="kv-soft">{{ found.pieces.length - told().length }} others move too and are not late by it</li>
            }
          </ul>
        }
      } @else {
        <p class="kv-soft">
          {{
            place() > 0
              ? 'Others ask too: yours is number ' + place() + ' in the queue …'
              : 'Planning what it would do to the dates …'
          }}
        </p>
      }
    </div>
  `,
  styles: `
    div {
      margin: 8px 0;
      padding: 8px 10px;
      background: var(--kv-warn-pale);
      font-size: 0.93rem;
    }
  `,
})
export class WhatIfBox {
  private readonly api = inject(Api);
  protected readonly shop = inject(ShopService);
  readonly stepId = input.required<string>();
  readonly outcome = input.required<string>();
  protected readonly answer = signal<WhatIf | undefined>(undefined);
  protected readonly wrong = signal('');
  protected readonly place = signal(0);
  /** Its own piece, which the server names first, and those that are late by it. */
  protected readonly told = computed(() =>
    (this.answer()?.pieces ?? []).filter(({ lateDays }, i) => i === 0 || lateDays > 0).slice(0, MOST),
  );

  constructor() {
    effect((cleanup) => {
      const path = `/steps/${this.stepId()}/what-if?outcome=${encodeURIComponent(this.outcome())}`;
      untracked(() => {
        this.answer.set(undefined);
        this.wrong.set('');
        this.place.set(0);
        // A question that waits for others says its place, and is asked for again.
        const asked = this.api
          .get<Asked>(path)
          .pipe(
            expand((found) =>
              'place' in found
                ? timer(ASK_AGAIN_MS).pipe(
                    switchMap(() => this.api.get<Asked>(`${path}&ticket=${encodeURIComponent(found.ticket)}`)),
                  )
                : EMPTY,
            ),
          )
          .subscribe({
            next: (found) => {
              if ('place' in found) this.place.set(found.place);
              else this.answer.set(found);
            },
            error: (failure: unknown) => this.wrong.set(asApiError(failure).message),
          });
        cleanup(() => asked.unsubscribe());
      });
    });
  }
}

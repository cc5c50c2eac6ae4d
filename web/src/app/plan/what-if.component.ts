import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { WhatIf } from '@kalvet/core';
import { ShopService } from '../shared/shop.service';
import { askedDates } from './ask-dates';

const MOST = 8;

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
          {{ waiting() }}
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
  protected readonly shop = inject(ShopService);
  readonly stepId = input.required<string>();
  readonly outcome = input.required<string>();
  private readonly asked = askedDates<WhatIf>(
    () => `/steps/${this.stepId()}/what-if?outcome=${encodeURIComponent(this.outcome())}`,
    'Planning what it would do to the dates …',
  );
  protected readonly answer = this.asked.answer;
  protected readonly wrong = this.asked.wrong;
  protected readonly waiting = this.asked.waiting;
  /** Its own piece, which the server names first, and those that are late by it. */
  protected readonly told = computed(() =>
    (this.answer()?.pieces ?? []).filter(({ lateDays }, i) => i === 0 || lateDays > 0).slice(0, MOST),
  );
}

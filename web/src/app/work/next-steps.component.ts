import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { Instant, NextStep } from '@kalvet/core';
import { standsNow } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { roomColour } from '../shared/rooms';
import { Session } from '../shared/session.service';
import { ShopService } from '../shared/shop.service';

/** What can be done now comes first, then what becomes ready; the rest waits for something. */
const RANK = { running: 0, 'too old': 1, ready: 2, 'too early': 3, waits: 4, held: 5 } as const;

/** What comes next on a piece: what can be done now first and large, what is blocked folded away. */
@Component({
  selector: 'kv-next-steps',
  imports: [ButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul aria-label="Next">
      @for (step of open(); track step.stepId; let first = $first) {
        <li [class.first]="first" [style.--room]="colour(step.room)">
          <div>
            <h2>{{ step.name }}</h2>
            <p class="sub">{{ step.on }}</p>
            @if (shop.words(step.numbers); as numbers) {
              <p>{{ numbers }}</p>
            }
            <p class="sub">{{ shop.stands(step) }}{{ plannedOf(step) }}</p>
          </div>
          @if (session.whoElse(step.kind); as who) {
            <span class="sub">{{ who }}</span>
          } @else {
            <button
              pButton
              type="button"
              size="small"
              (click)="record.emit(step.stepId)"
              data-test="record-next"
              [attr.aria-label]="'Record ' + step.name + ' ' + step.on">
              Record
            </button>
          }
        </li>
      }
    </ul>
    @if (blocked().length > 0) {
      <button
        type="button"
        class="kv-link"
        data-test="blocked"
        [attr.aria-expanded]="unfolded()"
        (click)="folded.set(unfolded())">
        {{ blocked().length }} {{ open().length > 0 ? 'more ' : '' }}{{ blocked().length === 1 ? 'waits' : 'wait' }} for
        something
      </button>
      @if (unfolded()) {
        <ul class="blocked" aria-label="Waiting">
          @for (step of blocked(); track step.stepId) {
            <li [style.--room]="colour(step.room)">
              <div>
                <b>{{ step.name }}</b> <span class="sub">{{ step.on }}</span>
                <p class="sub">{{ shop.stands(step) }}</p>
              </div>
              @if (!session.whoElse(step.kind)) {
                <button
                  type="button"
                  class="kv-link"
                  data-test="record-next"
                  [attr.aria-label]="'Record ' + step.name + ' ' + step.on"
                  (click)="record.emit(step.stepId)">
                  Record
                </button>
              }
            </li>
          }
        </ul>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      margin-bottom: 14px;
    }
    ul {
      display: grid;
      gap: 6px;
    }
    li {
      display: flex;
      gap: 12px;
      align-items: center;
      justify-content: space-between;
      padding: 8px 10px;
      border-left: 5px solid var(--room);
      background: var(--kv-paper);
    }
    .first {
      padding: 11px 12px;
      background: color-mix(in srgb, var(--room) 14%, var(--kv-paper));
    }
    li > :last-child {
      flex: none;
    }
    .sub {
      font-size: 0.9rem;
      color: var(--kv-ink-soft);
    }
    .kv-link {
      margin-top: 6px;
    }
    .blocked {
      margin-top: 6px;
    }
  `,
})
export class NextSteps {
  protected readonly shop = inject(ShopService);
  protected readonly session = inject(Session);
  readonly steps = input.required<readonly NextStep[]>();
  /** When the plan has each, by its step. */
  readonly planned = input<ReadonlyMap<string, Instant | null>>(new Map());
  readonly record = output<string>();
  protected readonly colour = roomColour;

  private readonly ranked = computed(() =>
    this.steps()
      .map((step) => ({ step, rank: RANK[standsNow(step, this.shop.now())] }))
      .sort((a, b) => a.rank - b.rank),
  );
  protected readonly open = computed(() =>
    this.ranked()
      .filter(({ rank }) => rank < RANK.waits)
      .map(({ step }) => step),
  );
  protected readonly blocked = computed(() =>
    this.ranked()
      .filter(({ rank }) => rank >= RANK.waits)
      .map(({ step }) => step),
  );
  /** Folded as long as there is something to do; where nothing can be done, why not is what one came for. */
  protected readonly folded = signal<boolean | undefined>(undefined);
  protected readonly unfolded = computed(() => !(this.folded() ?? this.open().length > 0));

  protected plannedOf({ stepId }: NextStep): string {
    const at = this.planned().get(stepId);
    return at ? `; planned ${this.shop.planned(at)}` : '';
  }
}

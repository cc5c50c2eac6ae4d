import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { StepView } from '@kalvet/core';
import { kindOf, outcomeOf } from '@kalvet/core';
import { Files } from '../../files/files.component';
import { ShopService } from '../../shared/shop.service';
import { WordsPipe } from '../../shared/words.pipe';

/** A step that is over, opened: how it went, who did it when, and everything that was read. */
@Component({
  selector: 'kv-step-record',
  imports: [Files, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>{{ step().name }}</h2>
    <p class="kv-soft">{{ step().on }}</p>
    <dl>
      <dt>{{ outcome() }}</dt>
      <dd>{{ shop.at(step().endedAt) }}</dd>
      @if (step().startedAt && step().startedAt !== step().endedAt) {
        <dt>Begun</dt>
        <dd>{{ shop.at(step().startedAt) }}</dd>
      }
      @if (step().by.length > 0) {
        <dt>By</dt>
        <dd>{{ step().by.join(', ') }}</dd>
      }
      @for (line of step().told; track line.key) {
        <dt>{{ line.label }}</dt>
        <dd>
          <span [class.taken]="line.taken">{{ line.value | words }}</span>
          @if (line.typed) {
            <span class="kv-soft"> typed {{ line.typed }}</span>
          }
          @if (line.taken) {
            <span class="kv-soft"> taken over</span>
          }
        </dd>
      }
      @if (step().note) {
        <dt>Note</dt>
        <dd>{{ step().note }}</dd>
      }
    </dl>
    @for (flag of step().flags; track flag) {
      <p class="kv-alert">{{ flag }}</p>
    }
    <kv-files subject="step" [subjectId]="step().id" [label]="step().name" [shownMost]="4" />
    <button type="button" class="kv-link" (click)="closed.emit()">Close</button>
  `,
  styles: `
    :host {
      display: block;
    }
    dl {
      display: grid;
      grid-template-columns: minmax(70px, auto) minmax(0, 1fr);
      gap: 4px 10px;
      margin: 10px 0;
    }
    dt {
      color: var(--kv-ink-soft);
    }
    dd {
      overflow-wrap: anywhere;
    }
    .taken {
      border-bottom: 2px dotted var(--kv-line-strong);
    }
  `,
})
export class StepRecord {
  protected readonly shop = inject(ShopService);
  readonly step = input.required<StepView>();
  readonly closed = output();
  protected readonly outcome = computed(() => {
    const { kind, outcome, state } = this.step();
    return outcomeOf(kindOf(kind), outcome ?? '')?.label ?? outcome ?? state;
  });
}

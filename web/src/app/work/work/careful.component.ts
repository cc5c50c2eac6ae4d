import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { ButtonModule } from 'primeng/button';
import { Refusal } from '../../shared/refusal.component';
import type { CarefulChange } from './consequences';

/** The foot of a form whose change is shown before it is made: what it does, what refuses it, and the second press. */
@Component({
  selector: 'kv-careful',
  imports: [ButtonModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (change().lines()?.length) {
      <div class="says" role="status">
        <b>What this does</b>
        <ul>
          @for (line of change().lines(); track line) {
            <li>{{ line }}</li>
          }
        </ul>
      </div>
    }
    <kv-refusal [submission]="change().sending" (reload)="left.emit()" />
    <div class="row">
      <button pButton type="submit" [attr.data-test]="test()" [disabled]="!ready() || change().asking()">
        {{ change().lines()?.length ? 'Do it' : 'Save' }}
      </button>
      <button pButton type="button" severity="secondary" [text]="true" (click)="left.emit()">Back</button>
    </div>
  `,
  styles: `
    .row {
      display: flex;
      gap: 9px;
    }
    .says {
      padding: 8px 10px;
      margin-bottom: 10px;
      background: var(--kv-warn-pale);
    }
  `,
})
export class Careful {
  readonly change = input.required<CarefulChange>();
  readonly ready = input.required<boolean>();
  /** How a journey finds the button. */
  readonly test = input.required<string>();
  readonly left = output();
}

import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { PourAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';

type HeatView = PourAnswer['heats'][number];

/** Heats that a tree could go into, a button each. */
@Component({
  selector: 'kv-into-heats',
  imports: [ButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (heat of heats(); track heat.id) {
      <button
        pButton
        type="button"
        size="small"
        severity="secondary"
        [outlined]="true"
        (click)="put.emit(heat)"
        [attr.aria-label]="'Put ' + label() + ' into H-' + heat.number">
        H-{{ heat.number }}
      </button>
    }
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
})
export class IntoHeats {
  /** How the tree is called. */
  readonly label = input.required<string>();
  readonly heats = input.required<readonly HeatView[]>();
  readonly put = output<HeatView>();
}

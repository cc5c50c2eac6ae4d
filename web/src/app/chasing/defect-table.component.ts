import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Defect } from '@kalvet/core';
import { DEFECTS, VERDICTS } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { ReadingControl } from '../route/reading-control';
import { Choices } from '../shared/choices.component';
import { QuantityInput } from '../shared/quantity-input.component';

/** The defects of a cast: what from the list, where, how big, and what is decided of each. */
@Component({
  selector: 'kv-defect-table',
  imports: [FormsModule, ButtonModule, InputTextModule, QuantityInput, Choices, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="kv-field" role="group" aria-label="Defects">
      <span class="kv-label">Defects{{ defects().length === 0 ? ': none seen' : '' }}</span>
      @for (defect of defects(); track $index) {
        <div class="defect">
          <p-select
            [inputId]="'defect-' + $index"
            [options]="$any(kinds)"
            optionLabel="label"
            optionValue="code"
            [ngModel]="defect.code"
            (ngModelChange)="put($index, { code: $event })"
            [ariaLabel]="'Defect ' + ($index + 1)"
            appendTo="body" />
          <button
            pButton
            type="button"
            icon="pi pi-times"
            [text]="true"
            severity="secondary"
            size="small"
            (click)="remove($index)"
            [attr.aria-label]="'Take defect ' + ($index + 1) + ' off the list'"></button>
          <input
            pInputText
            [id]="'defect-where-' + $index"
            placeholder="where"
            maxlength="200"
            [ngModel]="defect.where"
            (ngModelChange)="put($index, { where: $event })"
            [attr.aria-label]="'Where defect ' + ($index + 1) + ' is'" />
          <kv-quantity
            [inputId]="'defect-mm-' + $index"
            unit="mm"
            [decimals]="1"
            [suffix]="true"
            placeholder="size"
            [value]="defect.mm"
            (valueChange)="put($index, { mm: $event })"
            [ariaLabel]="'How big defect ' + ($index + 1) + ' is'" />
          <kv-choices
            class="verdict"
            [options]="$any(verdicts)"
            [value]="defect.verdict"
            (valueChange)="put($index, { verdict: $event })" />
        </div>
      }
      <button type="button" class="kv-link" data-test="add-defect" (click)="add()">Add a defect</button>
    </div>
  `,
  styles: `
    .defect {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 110px;
      gap: 6px;
      padding-bottom: 9px;
      margin-bottom: 9px;
      border-bottom: 1px solid var(--kv-line);
    }
    .defect button {
      justify-self: end;
    }
    .verdict {
      grid-column: 1 / -1;
    }
    input {
      width: 100%;
    }
  `,
})
export class DefectTable extends ReadingControl<readonly Defect[]> {
  /** Nothing yet stands for no defect seen. */
  protected readonly defects = computed(() => this.value() ?? []);
  protected readonly kinds = DEFECTS;
  protected readonly verdicts = VERDICTS.map((code) => ({ code, label: code.charAt(0).toUpperCase() + code.slice(1) }));

  protected add(): void {
    this.value.update((list = []) => [...list, { code: 'gas', where: '', mm: null, verdict: 'weld' }]);
  }

  protected put(at: number, patch: Partial<Defect>): void {
    this.value.update((list = []) => list.map((defect, i) => (i === at ? { ...defect, ...patch } : defect)));
  }

  protected remove(at: number): void {
    this.value.update((list = []) => list.filter((_, i) => i !== at));
  }
}

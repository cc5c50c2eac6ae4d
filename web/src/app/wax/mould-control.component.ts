import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { SelectModule } from 'primeng/select';
import { ReadingControl } from '../route/reading-control';

/** The mould that a wax comes from, with what it has left. */
@Component({
  selector: 'kv-mould-control',
  imports: [FormsModule, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-select
      [inputId]="inputId()"
      [options]="moulds()"
      optionLabel="label"
      optionValue="id"
      [ngModel]="value()"
      (ngModelChange)="value.set($event)"
      placeholder="Choose the mould"
      emptyMessage="No mould makes this section now"
      [fluid]="true"
      appendTo="body" />
  `,
})
export class MouldControl extends ReadingControl<string> {
  protected readonly moulds = computed(() =>
    this.form().moulds.map(({ id, label, used, left, good }) => ({
      id,
      label: `${label} · ${used} pulls${left === null ? '' : `, ${left} left`}${good ? '' : ' · not usable now'}`,
    })),
  );
}

import { ChangeDetectionStrategy, Component, computed, inject, input, model, output } from '@angular/core';
import type { Asked, ReadingDef, StepForm } from '@kalvet/core';
import { Doubt } from '../shared/doubt.component';
import { Field } from '../shared/field.component';
import { Part } from './part.directive';
import { STEP_PARTS } from './parts';

/** One reading of a step, built from its definition; its kind's control comes from the list of the rooms' parts. */
@Component({
  selector: 'kv-reading-field',
  imports: [Doubt, Field, Part],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (entry().labelled) {
      <kv-field
        [label]="def().label"
        [for]="inputId()"
        [unit]="def().unit"
        [optional]="!def().required"
        [error]="wrong()">
        <ng-container [kvPart]="entry().component" [inputs]="inputs()" [outputs]="tell" />
      </kv-field>
    } @else {
      <ng-container [kvPart]="entry().component" [inputs]="inputs()" [outputs]="tell" />
      @if (wrong(); as text) {
        <span class="kv-wrong" role="alert">{{ text }}</span>
      }
    }
    @for (asked of doubts(); track asked.field) {
      <kv-doubt [asked]="asked" (mend)="mend.emit({ field: asked.field, value: $event })" />
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    :host(.wide) {
      grid-column: 1 / -1;
    }
  `,
  host: { '[class.wide]': 'entry().wide' },
})
export class ReadingField {
  private readonly parts = inject(STEP_PARTS);
  readonly def = input.required<ReadingDef>();
  readonly form = input.required<StepForm>();
  readonly wrong = input<string>();
  readonly value = model<unknown>();
  readonly typed = input<string>();
  readonly typedChange = output<string | undefined>();
  readonly taken = input(false);
  readonly takenChange = output<boolean>();
  /** What is unlikely about it, asked while it can still be mended. */
  readonly doubts = input<readonly Asked[]>([]);
  readonly mend = output<{ readonly field: string; readonly value: number }>();

  protected readonly entry = computed(() => this.parts.readings[this.def().kind]);
  protected readonly inputId = computed(() => `reading-${this.def().key}`);
  protected readonly inputs = computed(() => ({
    def: this.def(),
    form: this.form(),
    inputId: this.inputId(),
    value: this.value(),
    typed: this.typed(),
    taken: this.taken(),
  }));
  protected readonly tell = {
    valueChange: (value: unknown) => this.value.set(value),
    typedChange: (text: string | undefined) => this.typedChange.emit(text),
    takenChange: (on: boolean) => this.takenChange.emit(on),
  };
}

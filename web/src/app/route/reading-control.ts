import { Directive, input, model, output } from '@angular/core';
import type { Type } from '@angular/core';
import type { ReadingDef, StepForm } from '@kalvet/core';

/** What the control of every kind of reading takes and tells. */
@Directive()
export abstract class ReadingControl<T = unknown> {
  readonly def = input.required<ReadingDef>();
  readonly form = input.required<StepForm>();
  readonly inputId = input.required<string>();
  readonly value = model<T>();
  /** As it was typed, where that was another unit than the one that is kept. */
  readonly typed = input<string>();
  readonly typedChange = output<string | undefined>();
  /** Nobody read it off: it was taken over from what was planned or said last. */
  readonly taken = input(false);
  readonly takenChange = output<boolean>();
}

/** How a kind of reading is shown: its control, whether a label stands over it, and whether it wants the whole width. */
export interface ReadingEntry {
  readonly component: Type<Pick<ReadingControl, 'def' | 'form' | 'inputId' | 'typed' | 'taken'>>;
  readonly labelled: boolean;
  readonly wide: boolean;
}

import { ChangeDetectionStrategy, Component, computed } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Choices } from '../shared/choices.component';
import { QuantityInput } from '../shared/quantity-input.component';
import { Ghost } from './ghost.component';
import { ReadingControl } from './reading-control';

/** A number with its unit. */
@Component({
  selector: 'kv-number-control',
  imports: [Ghost, QuantityInput],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-quantity
      [inputId]="inputId()"
      [unit]="def().unit ?? ''"
      [decimals]="def().decimals ?? 1"
      [value]="value() ?? null"
      (valueChange)="value.set($event ?? undefined); takenChange.emit(false)"
      [taken]="taken()"
      [typed]="typed()"
      (typedChange)="typedChange.emit($event)" />
    @if (form().ghosts[def().key]; as ghost) {
      <kv-ghost
        [ghost]="ghost"
        [def]="def()"
        [empty]="value() === undefined"
        [taken]="taken()"
        (takeOver)="value.set(+$event); takenChange.emit(true)" />
    }
  `,
})
export class NumberControl extends ReadingControl<number> {}

/** Words on a line. */
@Component({
  selector: 'kv-text-control',
  imports: [FormsModule, Ghost, InputTextModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      pInputText
      [id]="inputId()"
      [ngModel]="value()"
      (ngModelChange)="value.set($event); takenChange.emit(false)"
      [maxlength]="def().max ?? 500"
      autocomplete="off" />
    @if (form().ghosts[def().key]; as ghost) {
      <kv-ghost
        [ghost]="ghost"
        [def]="def()"
        [empty]="!value()"
        [taken]="taken()"
        (takeOver)="value.set('' + $event); takenChange.emit(true)" />
    }
  `,
  styles: `
    input {
      width: 100%;
    }
  `,
})
export class TextControl extends ReadingControl<string> {}

/** More than these are a list; so many stand there. */
const LAID_OUT = 6;

/** One of a few, laid out; of more, a list. */
@Component({
  selector: 'kv-choice-control',
  imports: [Choices, FormsModule, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (choices().length <= most) {
      <kv-choices
        [inputId]="inputId()"
        [options]="choices()"
        [value]="value()"
        (valueChange)="value.set($event)"
        (cleared)="value.set(undefined)"
        [clears]="!def().required"
        [ariaLabel]="def().label" />
    } @else {
      <p-select
        [inputId]="inputId()"
        [options]="$any(def().choices)"
        optionLabel="label"
        optionValue="code"
        [ngModel]="value()"
        (ngModelChange)="value.set($event)"
        [showClear]="!def().required"
        [ariaLabel]="def().label"
        [fluid]="true"
        appendTo="body" />
    }
  `,
})
export class ChoiceControl extends ReadingControl<string> {
  protected readonly most = LAID_OUT;
  protected readonly choices = computed(() => this.def().choices ?? []);
}

/** Seen or not: nobody has said it before somebody taps. */
@Component({
  selector: 'kv-yes-control',
  imports: [FormsModule, Choices],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="ask">
      <span [id]="inputId()">{{ def().label }}</span>
      <kv-choices
        [options]="answers"
        [value]="value()"
        (valueChange)="value.set($event)"
        (cleared)="value.set(undefined)"
        [labelledBy]="inputId()"
        [clears]="true" />
    </div>
  `,
  styles: `
    .ask {
      display: flex;
      gap: 12px;
      align-items: center;
      justify-content: space-between;
      margin-bottom: 10px;
      font-weight: 500;
    }
  `,
})
export class YesControl extends ReadingControl<boolean> {
  protected readonly answers = [
    { label: 'Yes', code: true },
    { label: 'No', code: false },
  ];
}

import { ChangeDetectionStrategy, Component } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { QuantityInput } from '../shared/quantity-input.component';
import { ReadingControl } from './reading-control';

/** A number with its unit. */
@Component({
  selector: 'kv-number-control',
  imports: [QuantityInput],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-quantity
      [inputId]="inputId()"
      [unit]="def().unit ?? ''"
      [decimals]="def().decimals ?? 1"
      [value]="value() ?? null"
      (valueChange)="value.set($event ?? undefined)"
      [typed]="typed()"
      (typedChange)="typedChange.emit($event)" />
  `,
})
export class NumberControl extends ReadingControl<number> {}

/** Words on a line. */
@Component({
  selector: 'kv-text-control',
  imports: [FormsModule, InputTextModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      pInputText
      [id]="inputId()"
      [ngModel]="value()"
      (ngModelChange)="value.set($event)"
      [maxlength]="def().max ?? 500"
      autocomplete="off" />
  `,
  styles: `
    input {
      width: 100%;
    }
  `,
})
export class TextControl extends ReadingControl<string> {}

/** One of a list. */
@Component({
  selector: 'kv-choice-control',
  imports: [FormsModule, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-select
      [inputId]="inputId()"
      [options]="$any(def().choices)"
      optionLabel="label"
      optionValue="code"
      [ngModel]="value()"
      (ngModelChange)="value.set($event)"
      [showClear]="!def().required"
      [fluid]="true"
      appendTo="body" />
  `,
})
export class ChoiceControl extends ReadingControl<string> {}

/** Seen or not: the words stand beside the box. */
@Component({
  selector: 'kv-yes-control',
  imports: [FormsModule, CheckboxModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="check">
      <p-checkbox
        [inputId]="inputId()"
        [binary]="true"
        [ngModel]="value() === true"
        (ngModelChange)="value.set($event)" />
      <label [for]="inputId()">{{ def().label }}</label>
    </div>
  `,
  styles: `
    .check {
      display: flex;
      gap: 9px;
      align-items: center;
      margin-bottom: 10px;
    }
  `,
})
export class YesControl extends ReadingControl<boolean> {}

import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { PASSWORD_LEAST } from '@kalvet/core';
import { InputTextModule } from 'primeng/inputtext';
import { Field } from '../shared/field.component';

/** A password or a PIN: not shown, kept by the browser's own keeper where that is wanted, with what a new one needs. */
@Component({
  selector: 'kv-secret',
  imports: [Field, InputTextModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-field [label]="label()" [for]="field()" [hint]="hint() || needs()" [error]="error()">
      <input
        pInputText
        type="password"
        [id]="field()"
        [name]="field()"
        [value]="value()"
        (input)="value.set($any($event.target).value)"
        [attr.autocomplete]="complete()"
        [attr.inputmode]="complete() === 'off' ? 'numeric' : null"
        [attr.maxlength]="complete() === 'off' ? 8 : 200" />
    </kv-field>
  `,
  styles: `
    input {
      width: 100%;
    }
  `,
})
export class SecretField {
  readonly label = input.required<string>();
  readonly field = input.required<string>();
  /** What a browser may do with it; a PIN is never kept. */
  readonly complete = input<'current-password' | 'new-password' | 'off'>('current-password');
  readonly hint = input('');
  readonly error = input<string>();
  readonly value = model.required<string>();

  protected needs(): string {
    return this.complete() === 'new-password' ? `at least ${PASSWORD_LEAST} letters; three or four words are good` : '';
  }
}

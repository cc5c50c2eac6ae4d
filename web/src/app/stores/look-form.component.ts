import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { CrucibleLook } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** What somebody saw when they looked a pot over. */
@Component({
  selector: 'kv-look-form',
  imports: [ButtonModule, Field, FormsModule, InputTextModule, Refusal, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <h2>Crucible {{ name() }} looked over</h2>
      <div class="fields">
        <kv-field label="It is" for="f-verdict" [error]="sending.fields()['verdict']">
          <p-select
            inputId="f-verdict"
            name="verdict"
            [options]="verdicts"
            optionLabel="label"
            optionValue="code"
            [ngModel]="verdict()"
            (ngModelChange)="verdict.set($event)"
            appendTo="body" />
        </kv-field>
        <kv-field label="What was seen" for="f-note" [error]="sending.fields()['note']">
          <input
            pInputText
            id="f-note"
            name="note"
            maxlength="1000"
            [ngModel]="note()"
            (ngModelChange)="note.set($event)" />
        </kv-field>
      </div>
      <kv-refusal [submission]="sending" (reload)="done.emit()" (override)="save()" />
      <div class="row">
        <button pButton type="submit" size="small" data-test="save-look" [disabled]="sending.busy()">Enter</button>
        <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="cancelled.emit()">
          Back
        </button>
      </div>
    </form>
  `,
  styleUrl: './form.css',
})
export class LookForm {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly done = output();
  readonly cancelled = output();
  readonly crucibleId = input.required<string>();
  readonly name = input.required<string>();
  private readonly id = newId();
  protected readonly verdicts = [
    { code: 'good', label: 'good' },
    { code: 'watch', label: 'to be watched' },
    { code: 'retire', label: 'retired: it melts no more' },
  ];
  protected readonly verdict = signal<CrucibleLook['verdict']>('good');
  protected readonly note = signal('');

  protected save(): void {
    const body = { id: this.id, crucibleId: this.crucibleId(), verdict: this.verdict(), note: this.note().trim() };
    this.sending.send('/metal/looks', body, () => this.done.emit(), { said: 'Looked over' });
  }
}

import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Lot, LotState } from '@kalvet/core';
import { ALLOYS, LOT_STATES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { asDay, dayPicker } from '../shared/time';
import { When } from '../shared/when/when.component';
import { analysisInWords, readAnalysis } from './analysis';

/** A delivery of metal: what came, with the supplier's mark and sheet; what nobody knows stays in quarantine. */
@Component({
  selector: 'kv-lot-form',
  imports: [ButtonModule, Field, FormsModule, InputTextModule, QuantityInput, Refusal, SelectModule, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <h2>{{ lot() ? 'Delivery ' + lot()!.mark : 'A delivery' }}</h2>
      <div class="fields">
        <kv-field label="What" for="f-what" [error]="sending.fields()['what']">
          <p-select
            inputId="f-what"
            name="what"
            [options]="whats"
            optionLabel="label"
            optionValue="code"
            [ngModel]="what()"
            (ngModelChange)="what.set($event)"
            appendTo="body" />
        </kv-field>
        <kv-field label="Alloy" for="f-alloyId" [error]="sending.fields()['alloyId']">
          <p-select
            inputId="f-alloyId"
            name="alloyId"
            [options]="alloys"
            optionLabel="label"
            optionValue="code"
            [ngModel]="alloyId()"
            (ngModelChange)="alloyId.set($event)"
            appendTo="body" />
        </kv-field>
        <kv-field label="Mark on the ingots" for="f-mark" [error]="sending.fields()['mark']">
          <input
            pInputText
            id="f-mark"
            name="mark"
            maxlength="60"
            [ngModel]="mark()"
            (ngModelChange)="mark.set($event)" />
        </kv-field>
        <kv-field label="Supplier" for="f-supplier" [error]="sending.fields()['supplier']">
          <input
            pInputText
            id="f-supplier"
            name="supplier"
            maxlength="120"
            [ngModel]="supplier()"
            (ngModelChange)="supplier.set($event)" />
        </kv-field>
        <kv-field label="Weighed" unit="kg" for="f-kg" [error]="sending.fields()['kg']">
          <kv-quantity inputId="f-kg" unit="kg" [decimals]="1" [(value)]="kg" />
        </kv-field>
        <kv-field label="Came on" for="f-receivedOn" [error]="sending.fields()['receivedOn']">
          <kv-when inputId="f-receivedOn" [(value)]="day" />
        </kv-field>
        <kv-field label="State" for="f-state" [error]="sending.fields()['state']">
          <p-select
            inputId="f-state"
            name="state"
            [options]="states"
            optionLabel="label"
            optionValue="code"
            [ngModel]="state()"
            (ngModelChange)="state.set($event)"
            appendTo="body" />
        </kv-field>
        <kv-field
          class="wide"
          label="Analysis by the supplier’s sheet, %"
          for="f-analysis"
          hint="as on the sheet: Cu 95.1, Si 3.9, Mn 0.9"
          [error]="wrongAnalysis() || sending.fields()['analysis']">
          <input
            pInputText
            id="f-analysis"
            name="analysis"
            maxlength="400"
            [ngModel]="analysis()"
            (ngModelChange)="analysis.set($event)" />
        </kv-field>
        <kv-field label="Note" for="f-note" [error]="sending.fields()['note']">
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
        <button pButton type="submit" size="small" data-test="save-lot" [disabled]="sending.busy()">Enter</button>
        <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="cancelled.emit()">
          Back
        </button>
      </div>
    </form>
  `,
  styleUrl: './form.css',
})
export class LotForm {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly done = output();
  readonly cancelled = output();
  readonly lot = input<Lot>();
  private id = newId();
  protected readonly whats = [
    { code: 'ingot', label: 'ingot' },
    { code: 'addition', label: 'addition (phosphor copper …)' },
  ];
  protected readonly alloys = [
    ...ALLOYS.map(({ id, name }) => ({ code: id as string | null, label: name })),
    { code: null, label: 'nobody knows, or for several' },
  ];
  protected readonly states = LOT_STATES.map((code) => ({ code, label: code }));
  protected readonly what = signal<Lot['what']>('ingot');
  protected readonly alloyId = signal<string | null>(ALLOYS[0]!.id);
  protected readonly mark = signal('');
  protected readonly supplier = signal('');
  protected readonly kg = signal<number | null>(null);
  protected readonly day = signal<Date | null>(null);
  protected readonly state = signal<LotState>('good');
  protected readonly analysis = signal('');
  protected readonly note = signal('');
  private readonly read = computed(() => readAnalysis(this.analysis()));
  protected readonly tried = signal(false);
  protected readonly wrongAnalysis = computed(() =>
    this.tried() && this.read() === undefined ? 'write elements with their per cent: Cu 95.1, Si 3.9' : '',
  );

  constructor() {
    effect(() => {
      const lot = this.lot();
      untracked(() => this.begin(lot));
    });
  }

  private begin(lot: Lot | undefined): void {
    this.id = lot?.id ?? newId();
    this.day.set(this.shop.pickerNow());
    if (!lot) return;
    this.what.set(lot.what);
    this.alloyId.set(lot.alloyId);
    this.mark.set(lot.mark);
    this.supplier.set(lot.supplier);
    this.kg.set(lot.kg);
    this.day.set(dayPicker(lot.receivedOn));
    this.state.set(lot.state);
    this.analysis.set(analysisInWords(lot.analysis));
    this.note.set(lot.note);
  }

  protected save(): void {
    this.tried.set(true);
    const analysis = this.read();
    if (analysis === undefined) return;
    const body = {
      id: this.id,
      version: this.lot()?.version ?? 0,
      what: this.what(),
      alloyId: this.alloyId(),
      mark: this.mark().trim(),
      supplier: this.supplier().trim(),
      kg: this.kg(),
      receivedOn: asDay(this.day()),
      analysis,
      state: this.state(),
      note: this.note().trim(),
    };
    this.sending.send('/metal/lots', body, () => this.done.emit(), { said: 'Delivery entered' });
  }
}

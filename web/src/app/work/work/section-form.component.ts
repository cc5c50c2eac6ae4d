import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  effect,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ChangeSection, WorkAnswer } from '@kalvet/core';
import { Dialog } from '../../shared/dialog.component';
import { InputTextModule } from 'primeng/inputtext';
import { Field } from '../../shared/field.component';
import { QuantityInput } from '../../shared/quantity-input.component';
import { Careful } from './careful.component';
import { CarefulChange } from './consequences';

const FIELDS = [
  { key: 'wallMm', label: 'Wall', unit: 'mm', decimals: 1 },
  { key: 'metalHeightMm', label: 'Metal height', unit: 'mm', decimals: 0 },
  { key: 'expectedWaxKg', label: 'Expected wax', unit: 'kg', decimals: 3 },
  { key: 'areaCm2', label: 'Surface', unit: 'cm2', decimals: 0 },
  { key: 'seamM', label: 'Seam', unit: 'm', decimals: 2 },
] as const;

type Numbers = Record<(typeof FIELDS)[number]['key'], number | null>;

/** Changes a section's figures, saying first what steps come and go. */
@Component({
  selector: 'kv-section-form',
  imports: [Careful, Field, FormsModule, Dialog, QuantityInput, InputTextModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-dialog (closed)="done.emit()" [heading]="'Section ' + section().name" [width]="460">
      <form (ngSubmit)="save()" autocomplete="off">
        <kv-field label="Name" for="section-name">
          <input pInputText id="section-name" name="name" [ngModel]="name()" (ngModelChange)="name.set($event)" />
        </kv-field>
        <div class="two">
          @for (field of fields; track field.key) {
            <kv-field
              [label]="field.label"
              [unit]="field.unit"
              [for]="'section-' + field.key"
              [error]="change.sending.fields()[field.key]">
              <kv-quantity
                [inputId]="'section-' + field.key"
                [unit]="field.unit"
                [decimals]="field.decimals"
                [value]="numbers()[field.key]"
                (valueChange)="set(field.key, $event)"
                [typed]="asTyped()[field.key]"
                (typedChange)="setTyped(field.key, $event)" />
            </kv-field>
          }
        </div>
        <div class="check">
          <input
            type="checkbox"
            class="kv-tick"
            id="section-deep"
            name="deep"
            [ngModel]="deep()"
            (ngModelChange)="deep.set($event)" />
          <label for="section-deep">A deep, narrow hollow: its coats dry three times as long</label>
        </div>
        <kv-careful [change]="change" [ready]="ready()" test="save-section" (left)="done.emit()" />
      </form>
    </kv-dialog>
  `,
  styles: `
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 0 12px;
    }
    .check {
      display: flex;
      gap: 9px;
      align-items: center;
      margin-bottom: 10px;
    }
  `,
})
export class SectionForm {
  protected readonly change = new CarefulChange();
  readonly section = input.required<WorkAnswer['sections'][number]>();
  readonly done = output();
  protected readonly fields = FIELDS;
  protected readonly name = linkedSignal(() => this.section().name);
  protected readonly deep = linkedSignal(() => this.section().deep);
  protected readonly numbers = linkedSignal<Numbers>(() => {
    const { wallMm, metalHeightMm, expectedWaxKg, areaCm2, seamM } = this.section();
    return { wallMm, metalHeightMm, expectedWaxKg, areaCm2, seamM };
  });
  protected readonly ready = computed(() => this.name().trim() !== '' && this.numbers().wallMm !== null);

  constructor() {
    effect(() => {
      const { id, version } = this.section();
      const { name, deep, numbers, asTyped } = this;
      untracked(() => this.change.sending.keep(`section ${id} ${version}`, { name, deep, numbers, asTyped }));
    });
  }

  protected set(key: keyof Numbers, value: number | null): void {
    this.numbers.update((numbers) => ({ ...numbers, [key]: value }));
  }

  protected readonly asTyped = linkedSignal<Readonly<Record<string, string | undefined>>>(() => this.section().typed);
  protected setTyped(key: string, text: string | undefined): void {
    this.asTyped.update((typed) => ({ ...typed, [key]: text }));
  }

  protected save(): void {
    const { id, version } = this.section();
    const { wallMm, ...rest } = this.numbers();
    if (wallMm === null) return;
    const typed = Object.fromEntries(
      Object.entries(this.asTyped()).flatMap(([key, text]) => (text ? [[key, text]] : [])),
    );
    const body: ChangeSection = { version, name: this.name().trim(), deep: this.deep(), wallMm, ...rest, typed };
    this.change.save(`/sections/${id}`, body, () => this.done.emit(), `${body.name} changed`);
  }
}

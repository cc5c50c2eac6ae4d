import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { WorkAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { CheckboxModule } from 'primeng/checkbox';
import { DialogModule } from 'primeng/dialog';
import { InputNumberModule } from 'primeng/inputnumber';
import { InputTextModule } from 'primeng/inputtext';
import { Refusal } from '../../shared/refusal.component';
import { CarefulChange } from './consequences';

const FIELDS = [
  { key: 'wallMm', label: 'Wall, mm', decimals: 1 },
  { key: 'metalHeightMm', label: 'Metal height, mm', decimals: 0 },
  { key: 'expectedWaxKg', label: 'Expected wax, kg', decimals: 3 },
  { key: 'areaCm2', label: 'Surface, cm²', decimals: 0 },
  { key: 'seamM', label: 'Seam, m', decimals: 2 },
] as const;

type Typed = Record<(typeof FIELDS)[number]['key'], number | null>;

/** Changes a section's figures, saying first what steps come and go. */
@Component({
  selector: 'kv-section-form',
  imports: [FormsModule, ButtonModule, CheckboxModule, DialogModule, InputNumberModule, InputTextModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-dialog
      [visible]="true"
      (visibleChange)="$event || done.emit()"
      [modal]="true"
      [draggable]="false"
      [header]="'Section ' + section().name"
      [style]="{ width: '460px' }">
      <form (ngSubmit)="save()" autocomplete="off">
        <div class="kv-field">
          <label for="section-name">Name</label>
          <input pInputText id="section-name" name="name" [ngModel]="name()" (ngModelChange)="name.set($event)" />
        </div>
        <div class="two">
          @for (field of fields; track field.key) {
            <div class="kv-field">
              <label [for]="'section-' + field.key">{{ field.label }}</label>
              <p-inputnumber
                [inputId]="'section-' + field.key"
                [name]="field.key"
                [ngModel]="typed()[field.key]"
                (ngModelChange)="set(field.key, $event)"
                [maxFractionDigits]="field.decimals"
                [useGrouping]="false"
                [min]="0" />
              @if (change.sending.fields()[field.key]; as text) {
                <span class="kv-wrong" role="alert">{{ text }}</span>
              }
            </div>
          }
        </div>
        <div class="check">
          <p-checkbox
            inputId="section-deep"
            name="deep"
            [binary]="true"
            [ngModel]="deep()"
            (ngModelChange)="deep.set($event)" />
          <label for="section-deep">A deep, narrow hollow: its coats dry three times as long</label>
        </div>
        @if (change.lines()?.length) {
          <div class="says" role="status">
            <b>What this does</b>
            <ul>
              @for (line of change.lines(); track line) {
                <li>{{ line }}</li>
              }
            </ul>
          </div>
        }
        <kv-refusal [submission]="change.sending" (reload)="done.emit()" />
        <div class="row">
          <button pButton type="submit" data-test="save-section" [disabled]="!ready() || change.asking()">
            {{ change.lines()?.length ? 'Do it' : 'Save' }}
          </button>
          <button pButton type="button" severity="secondary" [text]="true" (click)="done.emit()">Back</button>
        </div>
      </form>
    </p-dialog>
  `,
  styles: `
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 0 12px;
    }
    .check,
    .row {
      display: flex;
      gap: 9px;
      align-items: center;
      margin-bottom: 10px;
    }
    .says {
      padding: 8px 10px;
      margin-bottom: 10px;
      background: var(--kv-warn-pale);
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
  protected readonly typed = linkedSignal<Typed>(() => {
    const { wallMm, metalHeightMm, expectedWaxKg, areaCm2, seamM } = this.section();
    return { wallMm, metalHeightMm, expectedWaxKg, areaCm2, seamM };
  });
  protected readonly ready = computed(() => this.name().trim() !== '' && this.typed().wallMm !== null);

  protected set(key: keyof Typed, value: number | null): void {
    this.typed.update((typed) => ({ ...typed, [key]: value }));
  }

  protected save(): void {
    const { id, version } = this.section();
    const body = { version, name: this.name().trim(), deep: this.deep(), ...this.typed() };
    this.change.save(`/sections/${id}`, body, () => this.done.emit(), `${body.name} changed`);
  }
}

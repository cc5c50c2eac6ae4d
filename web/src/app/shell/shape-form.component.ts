import { ChangeDetectionStrategy, Component, effect, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { CoatRow } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Field } from '../shared/field.component';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { Submission } from '../shared/submission';

/** What pushes hardest on a section's shell: its widest round part and its largest flat. */
@Component({
  selector: 'kv-shape-form',
  imports: [ButtonModule, Field, FormsModule, QuantityInput, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (open()) {
      <form (ngSubmit)="save()" autocomplete="off">
        <div class="fields">
          <kv-field
            label="Widest round part, radius"
            unit="mm"
            [for]="'s-round-' + section().id"
            optional
            [error]="sending.fields()['roundMm']">
            <kv-quantity [inputId]="'s-round-' + section().id" unit="mm" [decimals]="0" [(value)]="roundMm" />
          </kv-field>
          <kv-field
            label="Largest flat, side"
            unit="mm"
            [for]="'s-flat-' + section().id"
            optional
            [error]="sending.fields()['flatMm']">
            <kv-quantity [inputId]="'s-flat-' + section().id" unit="mm" [decimals]="0" [(value)]="flatMm" />
          </kv-field>
        </div>
        <kv-refusal [submission]="sending" (reload)="open.set(false)" />
        <div class="row">
          <button pButton type="submit" size="small" [disabled]="sending.busy()">Keep for {{ section().name }}</button>
          <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="open.set(false)">
            Back
          </button>
        </div>
      </form>
    } @else {
      <button type="button" class="kv-link" data-test="shape" (click)="open.set(true)">
        {{ section().shape ? 'Change' : 'Say' }} round and flat parts of {{ section().name }}
      </button>
    }
  `,
  styleUrl: '../shared/panel-form.css',
})
export class ShapeForm {
  protected readonly sending = new Submission();
  readonly section = input.required<CoatRow['sections'][number]>();
  protected readonly open = signal(false);
  protected readonly roundMm = signal<number | null>(null);
  protected readonly flatMm = signal<number | null>(null);

  constructor() {
    effect(() => {
      const { shape } = this.section();
      untracked(() => {
        this.roundMm.set(shape?.roundMm ?? null);
        this.flatMm.set(shape?.flatMm ?? null);
      });
    });
  }

  protected save(): void {
    const { id, version } = this.section();
    const body = { version, roundMm: this.roundMm(), flatMm: this.flatMm() };
    this.sending.send(`/sections/${id}/shape`, body, () => this.open.set(false), { said: 'Shape kept' });
  }
}

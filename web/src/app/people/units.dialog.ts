import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ChangePerson, Units } from '@kalvet/core';
import { METRIC, UNIT_CHOICES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Dialog } from '../shared/dialog.component';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

const NAMES: Readonly<Record<keyof Units, string>> = {
  mass: 'Weight',
  temperature: 'Temperature',
  length: 'Length',
  volume: 'Volume',
  area: 'Area',
};

/** What somebody reads and types in: each unit by itself. The records stay as they are; the other units can still be typed. */
@Component({
  selector: 'kv-units',
  imports: [FormsModule, ButtonModule, Dialog, Field, Choices, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-dialog [open]="open()" (closed)="closed.emit()" heading="Units" [width]="380">
      <form (ngSubmit)="save()">
        <p class="kv-soft">
          What {{ shop.person()?.name ?? 'you' }} reads, on screens and printed sheets. Any unit may be typed all the
          same: 2 lb 4 oz, 3/16 in, 2100F.
        </p>
        @for (each of all; track each.key) {
          <kv-field [label]="each.name" [labelId]="'unit-' + each.key">
            <kv-choices
              [options]="each.choices"
              [value]="chosen()[each.key]"
              (valueChange)="choose(each.key, $event)"
              [labelledBy]="'unit-' + each.key" />
          </kv-field>
        }
        <kv-refusal [submission]="sending" (reload)="sending.reset(); shop.load().subscribe()" />
        <button pButton type="submit" data-test="save-units" [disabled]="!changed() || sending.busy()">Save</button>
      </form>
    </kv-dialog>
  `,
})
export class UnitsDialog {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly open = input.required<boolean>();
  readonly closed = output();
  protected readonly all = (Object.keys(UNIT_CHOICES) as (keyof Units)[]).map((key) => ({
    key,
    name: NAMES[key],
    choices: UNIT_CHOICES[key].map((unit: string) => ({ code: unit, label: unit })),
  }));
  protected readonly chosen = linkedSignal<Units>(() => this.shop.person()?.units ?? METRIC);
  protected readonly changed = computed(() =>
    this.all.some(({ key }) => this.chosen()[key] !== this.shop.units()[key]),
  );

  protected choose(key: keyof Units, unit: string): void {
    this.chosen.update((units) => ({ ...units, [key]: unit }));
  }

  protected save(): void {
    const person = this.shop.person();
    if (!person) return;
    const body: ChangePerson = { version: person.version, units: this.chosen() };
    this.sending.send(`/people/${person.id}`, body, () => this.shop.load().subscribe(() => this.closed.emit()), {
      method: 'patch',
    });
  }
}

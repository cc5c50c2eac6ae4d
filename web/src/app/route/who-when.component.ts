import { ChangeDetectionStrategy, Component, inject, input, model, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { DAY_MIN, addMinutes } from '@kalvet/core';
import { MultiSelectModule } from 'primeng/multiselect';
import { Field } from '../shared/field.component';
import { ShopService } from '../shared/shop.service';
import { asDay } from '../shared/time';
import { When } from '../shared/when/when.component';

/** Who did it and when it was done: now unless it is set back, in the shop's own hours. */
@Component({
  selector: 'kv-who-when',
  imports: [Field, FormsModule, MultiSelectModule, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-field label="Done at" for="done-at" [error]="wrong()['endedAt']">
      <kv-when
        inputId="done-at"
        [time]="true"
        towards="past"
        [until]="tomorrow"
        [value]="endedAt()"
        (valueChange)="endedAt.set($event ?? endedAt())" />
    </kv-field>
    <kv-field label="By" for="done-by" [error]="wrong()['by']">
      <p-multiselect
        inputId="done-by"
        [options]="shop.hands()"
        optionLabel="name"
        optionValue="id"
        [(ngModel)]="by"
        [filter]="false"
        [showToggleAll]="false"
        appendTo="body" />
    </kv-field>
    @if (begun() || startedAt()) {
      <kv-field label="Begun at" for="begun-at" [error]="wrong()['startedAt']">
        <kv-when inputId="begun-at" [time]="true" towards="past" [until]="tomorrow" [(value)]="startedAt" />
      </kv-field>
    } @else {
      <button type="button" class="kv-link more" (click)="begun.set(true)">Say when it was begun</button>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(min(100%, 250px), 1fr));
      gap: 0 10px;
      align-items: start;
    }
    .more {
      grid-column: 1 / -1;
      justify-self: start;
      margin: -4px 0 10px;
      font-size: 0.93rem;
    }
  `,
})
export class WhoWhen {
  protected readonly shop = inject(ShopService);
  readonly wrong = input<Readonly<Record<string, string>>>({});
  readonly endedAt = model.required<Date>();
  readonly startedAt = model<Date | null>(null);
  readonly by = model.required<string[]>();
  protected readonly begun = signal(false);
  /** A little ahead, so that the minute that has just begun can be picked. */
  protected readonly tomorrow = asDay(this.shop.picker(addMinutes(this.shop.exactNow(), DAY_MIN)));
}

import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { DAY_MIN, addMinutes } from '@kalvet/core';
import { MultiSelectModule } from 'primeng/multiselect';
import { TextareaModule } from 'primeng/textarea';
import { Field } from '../shared/field.component';
import { ShopService } from '../shared/shop.service';
import { asDay } from '../shared/time';
import { When } from '../shared/when/when.component';
import type { RecordDraft } from './record-draft';

/** Who did it, when it was done (now unless it is set back, in the shop's own hours), and what is noted of it. */
@Component({
  selector: 'kv-who-when',
  imports: [Field, FormsModule, MultiSelectModule, TextareaModule, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-field label="Done at" for="done-at" [error]="wrong()['endedAt']">
      <kv-when
        inputId="done-at"
        [time]="true"
        towards="past"
        [until]="tomorrow"
        [value]="given().endedAt()"
        (valueChange)="given().endedAt.set($event ?? given().endedAt())" />
    </kv-field>
    <kv-field label="By" for="done-by" [error]="wrong()['by']">
      <p-multiselect
        inputId="done-by"
        [options]="shop.hands()"
        optionLabel="name"
        optionValue="id"
        [ngModel]="given().by()"
        (ngModelChange)="given().by.set($event)"
        [filter]="false"
        [showToggleAll]="false"
        appendTo="body" />
    </kv-field>
    @if (begun() || given().startedAt()) {
      <kv-field label="Begun at" for="begun-at" [error]="wrong()['startedAt']">
        <kv-when
          inputId="begun-at"
          [time]="true"
          towards="past"
          [until]="tomorrow"
          [value]="given().startedAt()"
          (valueChange)="given().startedAt.set($event)" />
      </kv-field>
    } @else {
      <button type="button" class="kv-link more" (click)="begun.set(true)">Say when it was begun</button>
    }
    @if (noteId(); as id) {
      <kv-field class="note" [label]="asksWhy() ? 'Why' : 'Note (if any)'" [for]="id" [error]="wrong()['note']">
        <textarea
          pTextarea
          [id]="id"
          name="note"
          rows="2"
          [ngModel]="given().note()"
          (ngModelChange)="given().note.set($event)"
          maxlength="1000"></textarea>
      </kv-field>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(min(100%, 250px), 1fr));
      gap: 0 10px;
      align-items: start;
    }
    .note {
      grid-column: 1 / -1;
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
  readonly given = input.required<RecordDraft>();
  /** The id of the note's field; none where no note is asked for. */
  readonly noteId = input('');
  /** What is recorded wants a reason. */
  readonly asksWhy = input(false);
  protected readonly begun = signal(false);
  /** A little ahead, so that the minute that has just begun can be picked. */
  protected readonly tomorrow = asDay(this.shop.picker(addMinutes(this.shop.exactNow(), DAY_MIN)));
}

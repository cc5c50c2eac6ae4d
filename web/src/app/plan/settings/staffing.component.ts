import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { PlanningAnswer, SaveStaffing, Staffing } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputNumberModule } from 'primeng/inputnumber';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Choices } from '../../shared/choices.component';
import { Field } from '../../shared/field.component';
import { newId } from '../../shared/ids';
import { Refusal } from '../../shared/refusal.component';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { asDay } from '../../shared/time';
import { When } from '../../shared/when/when.component';

/** Who is off and who helps out: hands more or fewer in a room from one day to another. */
@Component({
  selector: 'kv-staffing',
  imports: [ButtonModule, Choices, Field, FormsModule, InputNumberModule, InputTextModule, Refusal, SelectModule, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (each of planning().staffing; track each.id) {
        <li>
          <span>
            <b>{{ nameOf(each) }}: {{ handsOf(each) }}</b>
            {{ daysOf(each) }}{{ each.personId ? ' · ' + shop.personName(each.personId) : ''
            }}{{ each.why ? ' · ' + each.why : '' }}
          </span>
          <button type="button" class="kv-link" [attr.aria-label]="'Take off: ' + nameOf(each)" (click)="remove(each)">
            take off
          </button>
        </li>
      } @empty {
        <li class="kv-soft">As many as usual in every room.</li>
      }
    </ul>
    @if (adding()) {
      <form (ngSubmit)="add()" autocomplete="off">
        <div class="fields">
          <kv-field label="Whose" for="staff-room">
            <p-select
              inputId="staff-room"
              name="room"
              [options]="people()"
              optionLabel="name"
              optionValue="id"
              [ngModel]="resourceId()"
              (ngModelChange)="resourceId.set($event)"
              placeholder="Choose"
              [fluid]="true"
              appendTo="body" />
          </kv-field>
          <kv-field label="How many" for="staff-count">
            <p-inputnumber
              inputId="staff-count"
              name="count"
              [min]="1"
              [max]="200"
              [ngModel]="count()"
              (ngModelChange)="count.set($event)" />
          </kv-field>
          <kv-field label="More or fewer" labelId="staff-sign">
            <kv-choices labelledBy="staff-sign" [options]="signs" [value]="sign()" (valueChange)="sign.set($event)" />
          </kv-field>
          <kv-field label="From" for="staff-from"><kv-when inputId="staff-from" [(value)]="from" /></kv-field>
          <kv-field label="To and including" for="staff-to"><kv-when inputId="staff-to" [(value)]="to" /></kv-field>
          @if (sign() < 0 && count() === 1) {
            <kv-field label="Who (if it is one person)" for="staff-who">
              <p-select
                inputId="staff-who"
                name="who"
                [options]="persons()"
                optionLabel="name"
                optionValue="id"
                [ngModel]="personId()"
                (ngModelChange)="personId.set($event)"
                [showClear]="true"
                placeholder="nobody by name"
                [fluid]="true"
                appendTo="body" />
            </kv-field>
          }
          <kv-field label="Why (if said)" for="staff-why">
            <input
              pInputText
              id="staff-why"
              name="why"
              maxlength="200"
              [ngModel]="why()"
              (ngModelChange)="why.set($event)" />
          </kv-field>
        </div>
        <kv-refusal [submission]="sending" (reload)="saved.emit()" />
        <div class="row">
          <button pButton type="submit" size="small" data-test="save-staffing" [disabled]="!ready() || sending.busy()">
            Enter
          </button>
          <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="adding.set(false)">
            Back
          </button>
        </div>
      </form>
    } @else {
      <kv-refusal [submission]="sending" (reload)="saved.emit()" />
      <button type="button" class="kv-link" data-test="add-staffing" (click)="adding.set(true)">
        Somebody is off, or helps out
      </button>
    }
  `,
  styleUrl: '../entries.css',
})
export class StaffingForm {
  protected readonly shop = inject(ShopService);
  readonly planning = input.required<PlanningAnswer>();
  readonly saved = output();

  protected readonly sending = new Submission();
  protected readonly adding = signal(false);
  protected readonly people = computed(() => this.planning().resources.filter(({ kind }) => kind === 'people'));
  protected readonly resourceId = signal<string | null>(null);
  protected readonly count = signal<number | null>(1);
  protected readonly signs = [
    { code: -1, label: 'fewer' },
    { code: 1, label: 'more' },
  ];
  protected readonly sign = signal(-1);
  protected readonly from = signal<Date | null>(null);
  protected readonly to = signal<Date | null>(null);
  protected readonly why = signal('');
  protected readonly personId = signal<string | null>(null);
  /** Those of the room that is chosen, and who works everywhere. */
  protected readonly persons = computed(() => {
    const room = this.people().find(({ id }) => id === this.resourceId())?.room;
    return this.shop.hands().filter(({ rooms }) => rooms.length === 0 || (room !== undefined && rooms.includes(room)));
  });
  protected readonly ready = computed(
    () => this.resourceId() !== null && (this.count() ?? 0) > 0 && asDay(this.from()) !== null,
  );

  protected nameOf({ resourceId }: Staffing): string {
    return this.planning().resources.find(({ id }) => id === resourceId)?.name ?? '';
  }

  protected handsOf({ more }: Staffing): string {
    return `${Math.abs(more)} ${more > 0 ? 'more' : 'fewer'}`;
  }

  protected daysOf({ from, to }: Staffing): string {
    return from === to ? this.shop.day(from) : `${this.shop.day(from)} to ${this.shop.day(to)}`;
  }

  protected add(): void {
    const [from, to] = [asDay(this.from())!, asDay(this.to())];
    const more = this.count()! * this.sign();
    this.send({
      id: newId(),
      version: 0,
      resourceId: this.resourceId()!,
      more,
      from,
      to: to ?? from,
      why: this.why().trim(),
      personId: more === -1 ? this.personId() : null,
      gone: false,
    });
  }

  protected remove(entry: Staffing): void {
    this.send({ ...entry, gone: true });
  }

  private send(body: SaveStaffing): void {
    this.sending.send('/staffing', body, () => {
      this.adding.set(false);
      this.saved.emit();
    });
  }
}

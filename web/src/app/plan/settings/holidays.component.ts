import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Day, Holiday, HolidayRegion } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { SelectModule } from 'primeng/select';
import { Api, asApiError } from '../../shared/api.service';
import { Field } from '../../shared/field.component';
import { ShopService } from '../../shared/shop.service';

/** The usual holidays of a country, to close on: a list to begin with, of which each day can be left out. */
@Component({
  selector: 'kv-holidays',
  imports: [ButtonModule, Field, FormsModule, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!open()) {
      <button type="button" class="kv-link" data-test="holidays" (click)="begin()">
        Close on the usual holidays of …
      </button>
    } @else {
      <kv-field label="Country" for="holiday-country" [error]="wrong()">
        <p-select
          inputId="holiday-country"
          name="country"
          [options]="countries()"
          optionLabel="name"
          optionValue="code"
          [filter]="true"
          filterBy="name"
          [ngModel]="country()"
          [ngModelOptions]="{ standalone: true }"
          (ngModelChange)="chooseCountry($event)"
          placeholder="Choose the country"
          [fluid]="true"
          appendTo="body" />
      </kv-field>
      @if (regions().length > 0) {
        <kv-field label="Region" for="holiday-region">
          <p-select
            inputId="holiday-region"
            name="region"
            [options]="regions()"
            optionLabel="name"
            optionValue="code"
            [showClear]="true"
            [ngModel]="region()"
            [ngModelOptions]="{ standalone: true }"
            (ngModelChange)="chooseRegion($event)"
            placeholder="all of it"
            [fluid]="true"
            appendTo="body" />
        </kv-field>
      }
      @if (days().length > 0) {
        <ul>
          @for (each of days(); track each.day) {
            <li>
              <input
                type="checkbox"
                class="kv-tick"
                [id]="'holiday-' + each.day"
                [checked]="!left().has(each.day)"
                (change)="toggle(each.day)" />
              <label [for]="'holiday-' + each.day">{{ shop.day(each.day) }}, {{ each.name }}</label>
            </li>
          }
        </ul>
        <button
          pButton
          type="button"
          size="small"
          severity="secondary"
          [outlined]="true"
          data-test="take-holidays"
          (click)="take()">
          Close on these {{ taken().length }} days
        </button>
      }
    }
  `,
  styles: `
    li {
      display: flex;
      gap: 8px;
      align-items: center;
      padding: 2px 0;
    }
    ul {
      max-height: 220px;
      margin: 4px 0 8px;
      overflow: auto;
    }
  `,
})
export class HolidayList {
  private readonly api = inject(Api);
  protected readonly shop = inject(ShopService);
  readonly closed = output<readonly Day[]>();

  protected readonly open = signal(false);
  protected readonly wrong = signal('');
  protected readonly countries = signal<HolidayRegion[]>([]);
  protected readonly country = signal<string | null>(null);
  protected readonly region = signal<string | null>(null);
  protected readonly days = signal<readonly Holiday[]>([]);
  /** Days that are left out. */
  protected readonly left = signal<ReadonlySet<Day>>(new Set());
  protected readonly regions = computed(() => [
    ...(this.countries().find(({ code }) => code === this.country())?.regions ?? []),
  ]);
  protected readonly taken = computed(() => this.days().filter(({ day }) => !this.left().has(day)));

  protected begin(): void {
    this.open.set(true);
    this.api.get<HolidayRegion[]>('/planning/regions').subscribe({
      next: (found) => this.countries.set(found),
      error: (failure: unknown) => this.wrong.set(asApiError(failure).message),
    });
  }

  protected chooseCountry(code: string | null): void {
    this.country.set(code);
    this.region.set(null);
    this.read();
  }

  protected chooseRegion(code: string | null): void {
    this.region.set(code);
    this.read();
  }

  private read(): void {
    const country = this.country();
    this.days.set([]);
    if (country === null) return;
    const region = this.region();
    const path = `/planning/holidays?country=${country}${region === null ? '' : `&region=${region}`}`;
    this.api.get<Holiday[]>(path).subscribe({
      next: (found) => this.days.set(found),
      error: (failure: unknown) => this.wrong.set(asApiError(failure).message),
    });
  }

  protected toggle(day: Day): void {
    this.left.update((left) => new Set(left.has(day) ? [...left].filter((each) => each !== day) : [...left, day]));
  }

  protected take(): void {
    this.closed.emit(this.taken().map(({ day }) => day));
    this.open.set(false);
  }
}

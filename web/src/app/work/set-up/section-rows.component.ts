import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  Injector,
  afterNextRender,
  inject,
  input,
  model,
  output,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonModule } from 'primeng/button';
import { InputNumberModule } from 'primeng/inputnumber';
import { InputTextModule } from 'primeng/inputtext';
import { QuantityInput } from '../../shared/quantity-input.component';
import { ShopService } from '../../shared/shop.service';
import type { SectionRow } from './section-figures';
import { SECTION_FIGURES, emptySection } from './section-figures';

/** The sections of a work as rows: Enter goes to the next one, and past the last it grows one more. */
@Component({
  selector: 'kv-section-rows',
  imports: [FormsModule, ButtonModule, InputNumberModule, InputTextModule, QuantityInput],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="scroll">
      <table>
        <thead>
          <tr>
            <th scope="col">Section</th>
            @for (figure of figures; track figure.key) {
              <th scope="col">{{ figure.label }}, {{ shop.sign(figure.unit) }}</th>
            }
            <th scope="col">Deep hollow</th>
            @if (moulded()) {
              <th scope="col" title="Sections of the same number come out of one mould">Mould</th>
            }
            <th scope="col">Will be</th>
            <th scope="col"><span class="kv-hidden">Take away</span></th>
          </tr>
        </thead>
        <tbody>
          @for (section of rows(); track $index; let i = $index) {
            <tr (keydown.enter)="next($event, i)">
              <td class="name">
                <input
                  pInputText
                  autocomplete="off"
                  [id]="'name-' + i"
                  [name]="'name-' + i"
                  [ngModel]="section.name"
                  (ngModelChange)="set(i, { name: $event })"
                  [attr.aria-label]="'Name of section ' + (i + 1)"
                  maxlength="120" />
                @if (wrong()('sections.' + i + '.name') ?? wrong()('sections.' + i); as text) {
                  <span class="kv-wrong" role="alert">{{ text }}</span>
                }
              </td>
              @for (figure of figures; track figure.key) {
                <td>
                  @if (figure.key !== 'seamM' || i > 0) {
                    <kv-quantity
                      [inputId]="figure.id + '-' + i"
                      [unit]="figure.unit"
                      [decimals]="figure.decimals"
                      [value]="section[figure.key]"
                      (valueChange)="put(i, figure.key, $event)"
                      [typed]="section.typed?.[figure.key]"
                      (typedChange)="asTyped.emit({ place: i, key: figure.key, text: $event })"
                      [ariaLabel]="figure.label + ' of section ' + (i + 1)" />
                    @if (wrong()('sections.' + i + '.' + figure.key); as text) {
                      <span class="kv-wrong" role="alert">{{ text }}</span>
                    }
                  } @else {
                    <span class="kv-soft none">the others join it</span>
                  }
                </td>
              }
              <td class="tick">
                <input
                  type="checkbox"
                  class="kv-tick"
                  [name]="'deep-' + i"
                  [ngModel]="section.deep"
                  (ngModelChange)="set(i, { deep: $event })"
                  [attr.aria-label]="'Section ' + (i + 1) + ' has a deep hollow'" />
              </td>
              @if (moulded()) {
                <td class="mould">
                  <p-inputnumber
                    [inputId]="'mould-' + i"
                    [name]="'mould-' + i"
                    [min]="1"
                    [max]="rows().length"
                    [ngModel]="section.mould"
                    (ngModelChange)="set(i, { mould: $event })"
                    (onFocus)="$any($event.target).select()"
                    [ariaLabel]="'Mould of section ' + (i + 1)" />
                </td>
              }
              <td class="will">{{ will()[i] }}</td>
              <td>
                @if (rows().length > 1) {
                  <button
                    pButton
                    type="button"
                    icon="pi pi-times"
                    [text]="true"
                    severity="secondary"
                    size="small"
                    (click)="remove(i)"
                    [attr.aria-label]="'Take section ' + (i + 1) + ' out'"></button>
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
    </div>
    <button type="button" class="kv-link" (click)="add()" data-test="add-section">
      Add a section <span class="kv-soft">(or Enter in the last row)</span>
    </button>
  `,
  styles: `
    .scroll {
      overflow-x: auto;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      margin-bottom: 8px;
    }
    th {
      padding: 0 8px 4px 0;
      font-weight: 500;
      font-size: 0.9rem;
      text-align: left;
      vertical-align: bottom;
    }
    td {
      padding: 3px 8px 3px 0;
      min-width: 76px;
      vertical-align: top;
    }
    .name {
      min-width: 150px;
    }
    .tick {
      padding-top: 7px;
    }
    .mould {
      width: 60px;
      min-width: 60px;
    }
    .none,
    .will {
      display: table-cell;
      padding-top: 8px;
    }
    .none {
      display: block;
      font-size: 0.9rem;
    }
    .will {
      min-width: 130px;
    }
  `,
})
export class SectionRows {
  protected readonly shop = inject(ShopService);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly injector = inject(Injector);
  readonly rows = model.required<readonly SectionRow[]>();
  /** Its waxes come out of moulds; a direct wax has none. */
  readonly moulded = input(true);
  /** What each will be, in words. */
  readonly will = input.required<readonly string[]>();
  /** What is wrong with a field, by its path. */
  readonly wrong = input.required<(field: string) => string | undefined>();
  readonly asTyped = output<{ readonly place: number; readonly key: string; readonly text: string | undefined }>();
  protected readonly figures = SECTION_FIGURES;

  protected set(place: number, patch: Partial<SectionRow>): void {
    this.rows.update((rows) => rows.map((row, i) => (i === place ? { ...row, ...patch } : row)));
  }

  protected put(place: number, key: (typeof SECTION_FIGURES)[number]['key'], value: number | null): void {
    this.set(place, { [key]: value });
  }

  /** One more row, of the wall of the one above, ready to be named. */
  add(): void {
    const wall = this.rows().at(-1)?.wallMm ?? 5;
    this.rows.update((rows) => [...rows, emptySection('', wall, rows.length + 1)]);
    this.name(this.rows().length - 1);
  }

  /** Puts the hand on a row's name, once it is drawn. */
  name(place: number): void {
    const field = () => this.host.querySelector<HTMLInputElement>(`#name-${place}`);
    if (field()) field()!.focus();
    else afterNextRender(() => field()?.focus(), { injector: this.injector });
  }

  protected remove(place: number): void {
    this.rows.update((rows) => rows.filter((_, i) => i !== place));
    this.name(Math.max(0, place - 1));
  }

  /** Enter goes on; in a last row that was left unnamed the list is at its end, and the form is sent. */
  protected next(event: Event, place: number): void {
    if ((event.target as HTMLElement).tagName === 'BUTTON') return;
    event.preventDefault();
    const rows = this.rows();
    if (place < rows.length - 1) return this.name(place + 1);
    if (rows[place]?.name?.trim()) return this.add();
    if (rows.length > 1) this.rows.update((all) => all.slice(0, -1));
    const form = this.host.closest('form');
    afterNextRender(() => form?.querySelector<HTMLButtonElement>('[type=submit]')?.focus(), {
      injector: this.injector,
    });
  }
}

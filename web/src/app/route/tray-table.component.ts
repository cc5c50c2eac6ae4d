import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Asked, ReadingDef, TrayLine } from '@kalvet/core';
import { doubts } from '@kalvet/core';
import { SelectModule } from 'primeng/select';
import { Doubt } from '../shared/doubt.component';
import { QuantityInput } from '../shared/quantity-input.component';
import { AmountPipe } from '../shared/words.pipe';

export type EachRead = Readonly<Record<string, Readonly<Record<string, unknown>> | undefined>>;

/** What is read of each of a tray, a row each; Enter goes on to the next one's. */
@Component({
  selector: 'kv-tray-table',
  imports: [AmountPipe, Doubt, FormsModule, QuantityInput, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table>
      <thead>
        <tr>
          <th scope="col"><span class="kv-hidden">Which</span></th>
          @for (def of defs(); track def.key) {
            <th scope="col">{{ def.label }}</th>
          }
        </tr>
      </thead>
      <tbody>
        @for (line of lines(); track line.stepId; let row = $index) {
          <tr>
            <th scope="row">
              {{ line.on }}
              @if (line.expectedWaxKg; as plan) {
                <span class="kv-soft">plan {{ plan | amount: 'kg' : 3 }}</span>
              }
            </th>
            @for (def of defs(); track def.key; let column = $index) {
              <td>
                @switch (def.kind) {
                  @case ('number') {
                    <kv-quantity
                      [inputId]="'each-' + row + '-' + column"
                      [unit]="def.unit ?? ''"
                      [decimals]="def.decimals ?? 1"
                      [suffix]="true"
                      [ariaLabel]="def.label + ' ' + line.on"
                      [value]="numberAt(line.stepId, def.key)"
                      (valueChange)="put.emit({ stepId: line.stepId, key: def.key, value: $event ?? undefined })"
                      (keydown.enter)="next($event, row + 1, column)" />
                  }
                  @case ('mould') {
                    <p-select
                      [options]="$any(line.moulds)"
                      optionLabel="label"
                      optionValue="id"
                      [ngModel]="valueAt(line.stepId, def.key)"
                      (ngModelChange)="put.emit({ stepId: line.stepId, key: def.key, value: $event })"
                      [ariaLabel]="def.label + ' ' + line.on"
                      [fluid]="true"
                      appendTo="body" />
                  }
                  @default {
                    <input
                      type="checkbox"
                      class="kv-tick"
                      [ngModel]="valueAt(line.stepId, def.key) === true"
                      (ngModelChange)="put.emit({ stepId: line.stepId, key: def.key, value: $event })"
                      [attr.aria-label]="def.label + ' ' + line.on"
                      [ngModelOptions]="{ standalone: true }" />
                  }
                }
                @if (wrong()['steps.' + row + '.readings.' + def.key]; as text) {
                  <span class="kv-wrong" role="alert">{{ text }}</span>
                }
              </td>
            }
          </tr>
          @for (asked of unlikely()[line.stepId] ?? []; track asked.field) {
            <tr>
              <td [attr.colspan]="defs().length + 1">
                <kv-doubt
                  [asked]="asked"
                  (mend)="put.emit({ stepId: line.stepId, key: asked.field.split('.')[1]!, value: $event })" />
              </td>
            </tr>
          }
        }
      </tbody>
    </table>
  `,
  styles: `
    table {
      width: 100%;
      border-collapse: collapse;
      margin-bottom: 10px;
    }
    th,
    td {
      padding: 3px 6px 3px 0;
      text-align: left;
      font-weight: 400;
      vertical-align: middle;
    }
    thead th {
      font-size: 0.88rem;
      color: var(--kv-ink-soft);
    }
    tbody th {
      font-weight: 500;
    }
    th .kv-soft {
      display: block;
      font-size: 0.88rem;
      font-weight: 400;
    }
    kv-quantity {
      min-width: 100px;
    }
  `,
})
export class TrayTable {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly lines = input.required<readonly TrayLine[]>();
  readonly defs = input.required<readonly ReadingDef[]>();
  readonly outcome = input.required<string>();
  readonly read = input.required<EachRead>();
  readonly wrong = input<Readonly<Record<string, string>>>({});
  readonly put = output<{ readonly stepId: string; readonly key: string; readonly value: unknown }>();

  protected readonly unlikely = computed(() =>
    Object.fromEntries(
      this.lines().map(({ stepId, expects }): [string, Asked[]] => [
        stepId,
        doubts(expects, this.read()[stepId] ?? {}, this.outcome(), this.defs()).flatMap(({ asks }) => asks ?? []),
      ]),
    ),
  );

  protected valueAt = (stepId: string, key: string): unknown => this.read()[stepId]?.[key];

  protected numberAt(stepId: string, key: string): number | null {
    const value = this.valueAt(stepId, key);
    return typeof value === 'number' ? value : null;
  }

  /** Enter is the way to the next weight; it must not send the form from the middle of the list. */
  protected next(event: Event, row: number, column: number): void {
    const field = this.host.nativeElement.querySelector<HTMLInputElement>(`#each-${row}-${column}`);
    if (!field) return;
    event.preventDefault();
    field.focus();
    field.select();
  }
}

import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterRenderEffect,
  computed,
  inject,
  input,
  output,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { MAY_PASS, mayPass, whoMay } from '@kalvet/core';
import { ShopService } from './shop.service';
import type { Submission } from './submission';

/**
 * Above a form's button: what was kept of it from before; why a record was not taken, what it means, and, where a rule allows
 * it, the way past it with a reason.
 */
@Component({
  selector: 'kv-refusal',
  imports: [FormsModule, ButtonModule, InputTextModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (submission().draft.since(); as since) {
      <p class="kept" role="status">
        This was typed {{ shop.when(since) }} and is not recorded yet.
        <button type="button" class="kv-link" data-test="afresh" (click)="submission().draft.beginAfresh()">
          Begin afresh
        </button>
      </p>
    }
    @if (submission().error(); as error) {
      <div class="box" role="alert">
        @if (submission().refusals().length > 0) {
          @for (refusal of submission().refusals(); track $index) {
            <p>{{ refusal.message }}</p>
          }
        } @else if (error.error.code === 'invalid') {
          <p>Some of it cannot be right; see below.</p>
        } @else {
          <p>{{ error.message }}</p>
        }
        @if (submission().stale()) {
          <button pButton type="button" size="small" (click)="reload.emit()">Look at what is there now</button>
        }
        @if (submission().onlyAsks()) {
          <div class="answers">
            @for (refusal of submission().refusals(); track $index) {
              @if (refusal.asks?.instead; as meant) {
                <button
                  pButton
                  type="button"
                  size="small"
                  severity="secondary"
                  data-test="instead"
                  (click)="instead.emit({ field: refusal.asks!.field, value: meant.value })">
                  {{ shop.quantity(meant) }}
                </button>
              }
            }
            <button
              pButton
              type="button"
              size="small"
              severity="contrast"
              data-test="confirm"
              [disabled]="submission().busy()"
              (click)="override.emit()">
              It is so: record it
            </button>
          </div>
        } @else if (submission().mayOverride()) {
          @if (submission().personMay()) {
            <div class="why">
              <label for="kv-override">Do it all the same, because</label>
              <input
                id="kv-override"
                pInputText
                [ngModel]="submission().reason()"
                (ngModelChange)="submission().reason.set($event)"
                name="override"
                maxlength="500"
                autocomplete="off" />
              <button
                pButton
                type="button"
                size="small"
                severity="contrast"
                data-test="override"
                [disabled]="submission().reason().trim() === '' || submission().busy()"
                (click)="override.emit()">
                Record it all the same
              </button>
            </div>
          } @else {
            <p class="kv-soft">{{ whoMay() }} can record it all the same, with a reason.</p>
          }
        }
      </div>
    }
  `,
  styles: `
    .box {
      background: var(--kv-alert-pale);
      border-left: 4px solid var(--kv-alert);
      padding: 10px 12px;
      margin: 8px 0;
      display: grid;
      gap: 8px;
    }
    .kept {
      background: var(--kv-plaster);
      border-left: 4px solid var(--kv-line);
      padding: 8px 12px;
      margin: 8px 0;
    }
    .answers {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .why {
      display: grid;
      gap: 5px;
    }
    label {
      font-weight: 500;
    }
  `,
})
export class Refusal {
  protected readonly shop = inject(ShopService);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly submission = input.required<Submission>();
  /** Who may pass all that stands in the way: by name, or by what they are where nobody here is it. */
  protected readonly whoMay = computed(() => {
    const rules = this.submission()
      .refusals()
      .map(({ rule }) => rule);
    const names = this.shop
      .people()
      .filter((person) => rules.every((rule) => mayPass(person, rule)))
      .map(({ name }) => name);
    if (names.length > 0) return names.join(' or ');
    const roles = MAY_PASS[rules[0] as keyof typeof MAY_PASS].filter((role) =>
      rules.every((rule) => mayPass({ roles: [role], rooms: [], gates: [] }, rule)),
    );
    return `Only ${whoMay(roles)}`;
  });
  readonly override = output();
  readonly reload = output();
  /** What was meant, where a slip explains an unlikely reading. */
  readonly instead = output<{ readonly field: string; readonly value: number }>();

  constructor() {
    // What is wrong may lie out of sight, above in a long form: the first field it is said of comes into view.
    afterRenderEffect(() => {
      if (!this.submission().error()) return;
      const form = this.host.closest('form, .p-drawer') ?? this.host;
      const first = form.querySelector<HTMLElement>('.kv-wrong') ?? this.host;
      first.scrollIntoView({ block: 'nearest' });
      first.closest('.kv-field')?.querySelector<HTMLElement>('input, textarea')?.focus({ preventScroll: true });
    });
  }
}

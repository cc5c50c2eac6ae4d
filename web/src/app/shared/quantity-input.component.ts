import { ChangeDetectionStrategy, Component, computed, inject, input, model, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ReadQuantity, Unit } from '@kalvet/core';
import { quantity, readQuantity, shown, toShown } from '@kalvet/core';
import { InputTextModule } from 'primeng/inputtext';
import { ShopService } from './shop.service';

/** What is kept of a unit that was converted: finer than any scale, coarser than the noise of the conversion. */
const KEPT_DECIMALS = 4;
/** What was understood is shown no finer than a gram or a micrometre. */
const MOST_SHOWN = 3;

/**
 * A number with its unit. A bare number is in the reader's own unit; any unit of the kind is understood: `2,43`,
 * `2 lb 4 oz`, `3/16 in`, `2100F`. What cannot be read is NaN, which no form sends.
 */
@Component({
  selector: 'kv-quantity',
  imports: [FormsModule, InputTextModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      pInputText
      type="text"
      inputmode="text"
      autocomplete="off"
      [id]="inputId()"
      [ngModel]="text()"
      [ngModelOptions]="{ standalone: true }"
      (ngModelChange)="read($event)"
      (blur)="left()"
      [disabled]="disabled()"
      [attr.aria-label]="ariaLabel() ? ariaLabel() + (sign() ? ', ' + sign() : '') : null"
      [class.taken]="taken()"
      [placeholder]="placeholder()" />
    @if (understood(); as read) {
      <span class="sign" [class.inside]="!suffix()" aria-live="polite">{{ read }}</span>
    } @else if (suffix() && sign()) {
      <span class="sign" aria-hidden="true">{{ sign() }}</span>
    }
  `,
  styles: `
    :host {
      position: relative;
      display: flex;
      align-items: center;
      gap: 4px;
      min-width: 0;
    }
    input {
      width: 100%;
      min-width: 0;
    }
    .taken {
      border-bottom-style: dotted;
    }
    .sign {
      color: var(--kv-ink-soft);
      white-space: nowrap;
    }
    .inside {
      position: absolute;
      right: 10px;
      max-width: 60%;
      overflow: hidden;
      pointer-events: none;
    }
  `,
})
export class QuantityInput {
  private readonly shop = inject(ShopService);
  readonly inputId = input<string>();
  readonly unit = input.required<Unit>();
  readonly decimals = input<number>();
  readonly ariaLabel = input('');
  readonly placeholder = input('');
  readonly disabled = input(false);
  /** Nobody read it off: it was taken over from what was planned or said last. */
  readonly taken = input(false);
  /** Shows the unit behind the field: where no label carries it. */
  readonly suffix = input(false);
  /** In the unit that is kept. */
  readonly value = model<number | null>(null);
  /** As it was typed, where that was another unit than the one that is kept. */
  readonly typed = input<string>();
  readonly typedChange = output<string | undefined>();

  protected readonly sign = computed(() => this.shop.sign(this.unit()));
  /** What somebody typed here, and what was understood of it; it holds as long as nobody else changes the value. */
  private readonly own = signal<{ readonly text: string; readonly value: number | null } | undefined>(undefined);
  /** What stands in the field: as it was typed while it is typed, else the value in the reader's unit. */
  protected readonly text = computed(() => {
    const value = this.value();
    const units = this.shop.units();
    const own = this.own();
    if (own && Object.is(own.value, value)) return own.text;
    if (value === null || value === undefined) return '';
    const typed = this.typed();
    if (typed) return typed;
    const at = quantity(value, this.unit(), this.decimals());
    return String(Number(toShown(value, this.unit(), units).toFixed(shown(at, units).decimals)));
  });

  /** What was understood of what is typed, with its unit; nothing where nobody has typed, or it cannot be read. */
  protected readonly understood = computed(() => {
    const text = this.text();
    const value = this.value();
    if (this.own()?.text !== text || value === null || Number.isNaN(value) || !this.sign()) return '';
    // Not a digit less than was typed, nor fewer than the reading has.
    const typed = /\.(\d+)$/.exec(String(Number(value.toFixed(MOST_SHOWN))))?.[1]?.length ?? 0;
    return this.shop.amount(value, this.unit(), Math.max(this.decimals() ?? 0, typed));
  });

  protected read(text: string): void {
    const found: ReadQuantity | undefined = readQuantity(text, this.unit(), this.shop.units());
    const value = text.trim() === '' ? null : found ? rounded(found.value, found.typed !== undefined) : Number.NaN;
    this.own.set({ text, value });
    this.value.set(value);
    this.typedChange.emit(found?.typed);
  }

  /** Left, a field that was read shows nothing else than before; one that is empty forgets what was typed. */
  protected left(): void {
    if (this.text().trim() === '') this.own.set({ text: '', value: null });
  }
}

const rounded = (value: number, converted: boolean): number =>
  converted ? Number(value.toFixed(KEPT_DECIMALS)) : value;

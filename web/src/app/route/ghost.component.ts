import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  Injector,
  afterNextRender,
  computed,
  inject,
  input,
  output,
} from '@angular/core';
import type { Ghost as Offered, ReadingDef } from '@kalvet/core';
import { ShopService } from '../shared/shop.service';

/** Under a field that nobody has filled in: what was planned or said last, taken over by one tap and marked as that. */
@Component({
  selector: 'kv-ghost',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (taken()) {
      <span class="kv-soft" data-test="taken" tabindex="-1">taken over, not read off</span>
    } @else if (empty() && ghost(); as offered) {
      <button type="button" class="kv-link" data-test="take-over" (click)="take(offered.value)">
        {{ words() }} <span class="kv-soft">{{ from() }}</span><span class="kv-hidden">: take it over</span>
      </button>
    }
  `,
  styles: `
    :host {
      display: block;
      min-height: 1.25em;
      font-size: 0.88rem;
    }
    button {
      text-decoration-style: dotted;
    }
  `,
})
export class Ghost {
  private readonly shop = inject(ShopService);
  readonly ghost = input<Offered>();
  readonly def = input.required<ReadingDef>();
  readonly empty = input.required<boolean>();
  readonly taken = input.required<boolean>();
  readonly takeOver = output<number | string>();

  protected readonly words = computed(() => {
    const value = this.ghost()?.value;
    const { unit = '', decimals } = this.def();
    return typeof value === 'number' ? this.shop.amount(value, unit, decimals) : (value ?? '');
  });
  protected readonly from = computed(() => this.shop.words(this.ghost()?.from ?? ''));
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly injector = inject(Injector);

  /** The button goes with it: the focus stays here, for whoever goes on by keyboard. */
  protected take(value: number | string): void {
    this.takeOver.emit(value);
    afterNextRender(() => this.host.querySelector<HTMLElement>('[data-test=taken]')?.focus({ preventScroll: true }), {
      injector: this.injector,
    });
  }
}

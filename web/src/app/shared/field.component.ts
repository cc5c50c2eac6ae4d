import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterRenderEffect,
  booleanAttribute,
  computed,
  inject,
  input,
} from '@angular/core';
import type { Unit } from '@kalvet/core';
import { ShopService } from './shop.service';

/**
 * One field of a form: its label with the unit that is typed, the control between its tags, a hint, and what is wrong with
 * it. Label and words are tied to the control, so that a screen reader says them with it.
 */
@Component({
  selector: 'kv-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'kv-field' },
  template: `
    @if (control()) {
      <label [for]="control()">{{ words() }}</label>
    } @else {
      <span class="kv-label" [id]="labelId()">{{ words() }}</span>
    }
    <ng-content />
    @if (hint(); as text) {
      <span class="kv-soft" [id]="control() + '-hint'">{{ text }}</span>
    }
    @if (error(); as text) {
      <span class="kv-wrong" role="alert" [id]="control() + '-wrong'">{{ text }}</span>
    }
  `,
})
export class Field {
  private readonly shop = inject(ShopService);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly label = input.required<string>();
  /** The id of the control inside; none for a group that has its own label id. */
  // eslint-disable-next-line @angular-eslint/no-input-rename -- `for` is what a label says, and no name for a field.
  readonly control = input('', { alias: 'for' });
  readonly labelId = input('');
  readonly unit = input<Unit>();
  readonly hint = input('');
  readonly error = input<string>();
  readonly optional = input(false, { transform: booleanAttribute });

  protected readonly words = computed(() => {
    const unit = this.unit();
    const sign = unit ? this.shop.sign(unit) : '';
    return `${this.label()}${sign ? `, ${sign}` : ''}${this.optional() ? ' (if known)' : ''}`;
  });

  constructor() {
    afterRenderEffect(() => {
      const id = this.control();
      const wrong = this.error() !== undefined && this.error() !== '';
      if (id === '') return;
      const control = this.host.nativeElement.querySelector(`[id="${id}"]`);
      const said = [...(this.hint() ? [`${id}-hint`] : []), ...(wrong ? [`${id}-wrong`] : [])].join(' ');
      if (said) control?.setAttribute('aria-describedby', said);
      else control?.removeAttribute('aria-describedby');
      if (wrong) control?.setAttribute('aria-invalid', 'true');
      else control?.removeAttribute('aria-invalid');
    });
  }
}

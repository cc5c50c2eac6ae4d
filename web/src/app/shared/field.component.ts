import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  afterRenderEffect,
  booleanAttribute,
  computed,
  inject,
  input,
  linkedSignal,
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
  host: { class: 'kv-field', '(input)': 'mended.set(true)' },
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
    @if (wrong(); as text) {
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
  /** What was said to be wrong is changed: whether it is right now is said when it is sent again. */
  protected readonly mended = linkedSignal({ source: () => this.error(), computation: () => false });
  protected readonly wrong = computed(() => (this.mended() ? '' : (this.error() ?? '')));
  readonly optional = input(false, { transform: booleanAttribute });

  protected readonly words = computed(() => {
    const unit = this.unit();
    const sign = unit ? this.shop.sign(unit) : '';
    return `${this.label()}${sign ? `, ${sign}` : ''}${this.optional() ? ' (if known)' : ''}`;
  });

  constructor() {
    const gone = inject(DestroyRef);
    afterNextRender(() => {
      const again = () => this.mended.set(false);
      const form = this.host.nativeElement.closest('form');
      form?.addEventListener('submit', again);
      gone.onDestroy(() => form?.removeEventListener('submit', again));
    });
    afterRenderEffect(() => {
      const id = this.control();
      const wrong = this.wrong() !== '';
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

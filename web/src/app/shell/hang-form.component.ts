import {
  ChangeDetectionStrategy,
  Component,
  booleanAttribute,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { CoatRow, PlaceAir } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** Hangs trees in a room or cabinet: from now on they dry in its air. */
@Component({
  selector: 'kv-hang-form',
  imports: [ButtonModule, Choices, Field, FormsModule, InputTextModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <kv-field label="In" labelId="h-place" [error]="sending.fields()['placeId']">
        <kv-choices
          [options]="options()"
          [value]="placeId()"
          (valueChange)="placeId.set($any($event))"
          labelledBy="h-place" />
      </kv-field>
      <kv-field label="Rack and hook" for="h-hook" optional [error]="sending.fields()['hook']">
        <input
          pInputText
          id="h-hook"
          name="hook"
          maxlength="120"
          [ngModel]="hook()"
          (ngModelChange)="hook.set($event)" />
      </kv-field>
      <kv-refusal [submission]="sending" (reload)="cancelled.emit()" />
      <div class="row">
        <button pButton type="submit" size="small" data-test="hang-it" [disabled]="sending.busy() || same()">
          {{ treeIds().length === 1 ? 'It hangs there now' : treeIds().length + ' trees hang there now' }}
        </button>
        @if (!inCard()) {
          <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="cancelled.emit()">
            Back
          </button>
        }
      </div>
    </form>
  `,
  styleUrl: '../shared/panel-form.css',
})
export class HangForm {
  private readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly treeIds = input.required<readonly string[]>();
  readonly places = input.required<readonly PlaceAir[]>();
  readonly now = input<CoatRow['hangs']>(null);
  readonly inCard = input(false, { transform: booleanAttribute });
  readonly done = output();
  readonly cancelled = output();
  protected readonly placeId = signal('');
  protected readonly hook = signal('');
  protected readonly options = computed(() =>
    this.places()
      .filter(({ place }) => place.state === 'in use')
      .map(({ place, trees }) => ({ code: place.id, label: `${place.name}, ${place.hooks - trees} free` })),
  );
  protected readonly same = computed(
    () => this.now() !== null && this.now()!.placeId === this.placeId() && this.now()!.hook === this.hook().trim(),
  );

  constructor() {
    // Another tree, or another place of it, is another form.
    effect(() => {
      const now = this.now();
      const [first] = this.options();
      untracked(() => {
        this.placeId.set(now?.placeId ?? first?.code ?? '');
        this.hook.set(now?.hook ?? '');
      });
    });
  }

  protected save(): void {
    const body = {
      treeIds: this.treeIds(),
      placeId: this.placeId(),
      hook: this.hook().trim(),
      at: this.shop.exactNow(),
    };
    this.sending.send('/shell/hang', body, () => this.done.emit(), { said: 'Hung' });
  }
}

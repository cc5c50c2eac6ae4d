import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { TankView } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { TextareaModule } from 'primeng/textarea';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** Somebody who leads the room decides of a tank that was out of order, and of the coats that were dipped in it. */
@Component({
  selector: 'kv-tank-decide-form',
  imports: [ButtonModule, Choices, Field, FormsModule, Refusal, TextareaModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <h2>{{ view().tank.name }}</h2>
      <p>
        {{ shop.words(view().stand.why ?? '') }}, {{ shop.when(view().stand.blockedSince) }}. Last found good
        {{ view().stand.doubtFrom ? shop.when(view().stand.doubtFrom) : 'never' }}. {{ view().inDoubt }}
        {{ view().inDoubt === 1 ? 'coat' : 'coats' }} in doubt.
      </p>
      <kv-field label="Coats in doubt" labelId="q-coats">
        <kv-choices
          [options]="choices"
          [value]="stand()"
          (valueChange)="stand.set($any($event))"
          labelledBy="q-coats"
          [rows]="true" />
      </kv-field>
      <kv-field label="What was done, and why they do" for="q-words" [error]="sending.fields()['words']">
        <textarea
          pTextarea
          id="q-words"
          name="words"
          rows="3"
          maxlength="1000"
          [ngModel]="words()"
          (ngModelChange)="words.set($event)"></textarea>
      </kv-field>
      <kv-refusal [submission]="sending" (reload)="done.emit()" />
      <div class="row">
        <button pButton type="submit" data-test="decide-tank" [disabled]="sending.busy()">Dip in it again</button>
        <button pButton type="button" severity="secondary" [text]="true" (click)="cancelled.emit()">Back</button>
      </div>
    </form>
  `,
  styleUrl: '../shared/panel-form.css',
})
export class TankDecideForm {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly view = input.required<TankView>();
  readonly done = output();
  readonly cancelled = output();
  protected readonly choices = [
    { code: false, label: 'stay in doubt: they are watched at the looks after dewax and firing' },
    { code: true, label: 'stand: the slurry was found sound' },
  ];
  protected readonly stand = signal(false);
  protected readonly words = signal('');
  private readonly id = newId();

  protected save(): void {
    const body = { id: this.id, tankId: this.view().tank.id, coatsStand: this.stand(), words: this.words().trim() };
    this.sending.send('/shell/tank-decisions', body, () => this.done.emit(), { said: 'Decided' });
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { LaneView, LoseCast as LoseCastGiven, Room } from '@kalvet/core';
import { ROOM_NAMES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Dialog } from '../../shared/dialog.component';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Field } from '../../shared/field.component';
import { Refusal } from '../../shared/refusal.component';
import { RAIL } from '../../shared/rooms';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';

/** A cast was lost outside any step: dropped, broken, a crack seen later. */
@Component({
  selector: 'kv-lose-cast',
  imports: [Field, FormsModule, ButtonModule, Dialog, InputTextModule, SelectModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (casts().length > 0) {
      <button type="button" class="kv-link" (click)="ask()">A cast was lost</button>
    }
    <kv-dialog [open]="open()" (closed)="open.set(false)" heading="A cast was lost" [width]="420">
      <form (ngSubmit)="send()" autocomplete="off">
        <kv-field label="Cast" for="lose-cast">
          <p-select
            inputId="lose-cast"
            name="cast"
            [options]="casts()"
            optionLabel="label"
            optionValue="castId"
            [ngModel]="castId()"
            (ngModelChange)="castId.set($event)"
            appendTo="body" />
        </kv-field>
        <kv-field label="Where" for="lose-room">
          <p-select
            inputId="lose-room"
            name="room"
            [options]="rooms"
            optionLabel="label"
            optionValue="code"
            [ngModel]="room()"
            (ngModelChange)="room.set($event)"
            appendTo="body" />
        </kv-field>
        <kv-field label="What happened" for="lose-why">
          <input
            pInputText
            id="lose-why"
            name="why"
            [ngModel]="why()"
            (ngModelChange)="why.set($event)"
            maxlength="500" />
        </kv-field>
        <p class="kv-soft">
          It is made again as the next attempt, from the wax on. What was done stays in the history; a seam that was
          welded opens anew.
        </p>
        <kv-refusal [submission]="sending" />
        <button pButton type="submit" severity="danger" [disabled]="why().trim() === '' || sending.busy()">
          It is lost
        </button>
      </form>
    </kv-dialog>
  `,
})
export class LoseCast {
  private readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly lanes = input.required<readonly LaneView[]>();
  readonly done = output();
  protected readonly rooms = RAIL.map((code) => ({ code, label: ROOM_NAMES[code] }));
  protected readonly casts = computed(() =>
    this.lanes().flatMap(({ attempts }) => attempts.filter(({ state }) => state === 'wax' || state === 'metal')),
  );
  protected readonly open = signal(false);
  protected readonly castId = signal('');
  protected readonly room = signal<Room>('wax');
  protected readonly why = signal('');

  protected ask(): void {
    const first = this.casts()[0];
    this.sending.reset();
    this.castId.set(first?.castId ?? '');
    this.room.set(first?.state === 'metal' ? 'chasing' : 'wax');
    this.why.set('');
    const { castId, room, why } = this;
    this.sending.keep(`lose ${first?.castId ?? ''}`, { castId, room, why });
    this.open.set(true);
  }

  protected send(): void {
    const cast = this.casts().find(({ castId }) => castId === this.castId());
    if (!cast) return;
    const body: LoseCastGiven = {
      version: cast.version,
      room: this.room(),
      why: this.why().trim(),
      at: this.shop.exactNow(),
    };
    this.sending.send(
      `/casts/${cast.castId}/lose`,
      body,
      () => {
        this.open.set(false);
        this.done.emit();
      },
      { said: 'Loss recorded' },
    );
  }
}

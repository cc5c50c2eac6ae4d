import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ChangePiece, FloorPiece, HoldPiece, HoldShells, Priority, Versioned, WithReason } from '@kalvet/core';
import { PRIORITIES, PRIORITY_WORDS } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Dialog } from '../../shared/dialog.component';
import { InputTextModule } from 'primeng/inputtext';
import { Choices } from '../../shared/choices.component';
import { Field } from '../../shared/field.component';
import { Refusal } from '../../shared/refusal.component';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { When } from '../../shared/when/when.component';
import { asDay, dayPicker } from '../../shared/time';
import { May } from '../../shared/may.directive';

type Action = 'hold' | 'due' | 'cancel' | 'model-again';

/** What can be decided about a piece as a whole: hold, due date, cancel, model again. */
@Component({
  selector: 'kv-piece-actions',
  imports: [May, Field, FormsModule, ButtonModule, Dialog, InputTextModule, Refusal, Choices, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './piece-actions.component.html',
  styles: `
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
    .row.end {
      margin-top: 12px;
    }
  `,
})
export class PieceActions {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly piece = input.required<FloorPiece>();
  readonly title = input.required<string>();
  readonly changed = output();

  protected readonly asking = signal<Action | undefined>(undefined);
  protected readonly reason = signal('');
  protected readonly day = signal<Date | null>(null);
  protected readonly shells = signal<HoldShells>('on');
  protected readonly priority = signal<Priority>('usual');
  protected readonly priorities = PRIORITIES.map((code) => ({ code, label: PRIORITY_WORDS[code] }));
  protected readonly shellChoices: { code: HoldShells; label: string }[] = [
    { code: 'on', label: 'Dip on to the seal coat' },
    { code: 'stop', label: 'Stop them too' },
  ];
  /** Some of it hangs half dipped: the hold must say what happens to that. */
  protected readonly dipping = computed(() => this.piece().sections.some(({ room }) => room === 'shell'));
  protected readonly open = computed(() => !['delivered', 'cancelled'].includes(this.piece().state));
  protected readonly header = computed(() => {
    const headers: Record<Action, string> = {
      hold: `Put ${this.title()} on hold`,
      due: `Due date and priority of ${this.title()}`,
      cancel: `Cancel ${this.title()}?`,
      'model-again': `Model ${this.title()} again?`,
    };
    return this.asking() ? headers[this.asking()!] : '';
  });

  protected ask(action: Action): void {
    this.sending.reset();
    this.reason.set('');
    const due = this.piece().dueDate;
    this.day.set(action === 'due' && due ? dayPicker(due) : null);
    this.shells.set('on');
    this.priority.set(this.piece().priority);
    const { reason, day, shells, priority } = this;
    this.sending.keep(`${action} ${this.piece().id}`, { reason, day, shells, priority });
    this.asking.set(action);
  }

  protected release(): void {
    this.sending.send(
      `/pieces/${this.piece().id}/release`,
      { version: this.piece().version } satisfies Versioned,
      () => this.changed.emit(),
      { said: 'Hold taken off' },
    );
  }

  protected send(): void {
    const { id, version } = this.piece();
    const action = this.asking()!;
    const done = () => {
      this.asking.set(undefined);
      this.changed.emit();
    };
    const reason = this.reason().trim();
    if (action === 'due')
      this.sending.send(
        `/pieces/${id}`,
        { version, dueDate: asDay(this.day()), priority: this.priority() } satisfies ChangePiece,
        done,
        { method: 'patch', said: 'Saved' },
      );
    else if (action === 'hold')
      this.sending.send(
        `/pieces/${id}/hold`,
        {
          version,
          reason,
          until: asDay(this.day()),
          ...(this.dipping() ? { shells: this.shells() } : {}),
        } satisfies HoldPiece,
        done,
        { said: 'On hold' },
      );
    else
      this.sending.send(`/pieces/${id}/${action}`, { version, reason } satisfies WithReason, done, {
        said: action === 'cancel' ? 'Cancelled' : 'To be modelled again',
      });
  }
}

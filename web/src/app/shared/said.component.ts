import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import type { TakeBack } from '@kalvet/core';
import { SaidLine } from './said.service';
import { Session } from './session.service';
import { Submission } from './submission';

/** The line at the foot of every page that says what was recorded last, and takes a slip back at once. */
@Component({
  selector: 'kv-said',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'status', 'aria-live': 'polite' },
  template: `
    @if (line.last(); as said) {
      <div (pointerenter)="line.hold(true)" (pointerleave)="line.hold(false)">
        <b>{{ said.text }}</b>
        @if (sending.error(); as error) {
          <span>{{ sending.refusals()[0]?.message ?? error.error.message }}</span>
        } @else {
          @for (flag of said.flags; track $index) {
            <span>{{ flag }}</span>
          }
        }
        <span class="spring"></span>
        @if (said.takesBack && session.may('take back') && !sending.error()) {
          <button type="button" data-test="take-back" [disabled]="sending.busy()" (click)="takeBack(said.takesBack)">
            Take back
          </button>
        }
        <button type="button" (click)="away()">Close</button>
      </div>
    }
  `,
  styles: `
    div {
      display: flex;
      gap: 18px;
      align-items: center;
      min-height: 44px;
      padding: 0 8px 0 20px;
      border-top: 3px solid var(--kv-accent);
      background: var(--kv-head);
      color: var(--kv-on-head);
    }
    .spring {
      flex: 1;
    }
    button {
      min-height: 44px;
      padding: 0 14px;
      border: 0;
      background: none;
      color: inherit;
      font: inherit;
      font-weight: 600;
      text-decoration: underline;
      cursor: pointer;
    }
  `,
})
export class SaidView {
  protected readonly line = inject(SaidLine);
  protected readonly session = inject(Session);
  protected readonly sending = new Submission();

  protected takeBack(change: number): void {
    const body: TakeBack = { reason: 'a slip, taken back at once' };
    this.sending.send(`/changes/${change}/take-back`, body, () => undefined, { said: 'Taken back' });
  }

  protected away(): void {
    this.sending.reset();
    this.line.away();
  }
}

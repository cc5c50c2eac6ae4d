import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { HOW_WORDS } from '@kalvet/core';
import type { HistoryLine, TakeBack } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { WordsPipe } from '../../shared/words.pipe';
import { Refusal } from '../../shared/refusal.component';
import { Session } from '../../shared/session.service';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';

const FIRST = 30;

/** What happened to a piece, the newest first; a wrong record is taken back from here, with a reason. */
@Component({
  selector: 'kv-history',
  imports: [FormsModule, ButtonModule, InputTextModule, Refusal, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>What happened</h2>
    <ol>
      @for (line of shown(); track line.number) {
        <li
          [style.--room]="
            line.bad ? 'var(--kv-alert)' : line.room ? 'var(--room-' + line.room + ')' : 'var(--kv-line-strong)'
          "
          [class.gone]="line.takenBack">
          <p>{{ line.text | words }}</p>
          <p class="kv-soft sub">
            <span [title]="'written down ' + shop.at(line.typedAt)">{{ shop.when(line.at) }}</span> ·
            <span [title]="sure(line)">{{ line.actor }}{{ proof(line) }}</span>
            @if (line.takenBack) {
              · taken back
            } @else if (line.mayTakeBack && mayTakeBack(line)) {
              · <button type="button" class="kv-link" (click)="ask(line.number)">take back</button>
            }
          </p>
          @if (line.reason && !shop.words(line.text).includes(line.reason)) {
            <p class="kv-soft sub">{{ line.reason }}</p>
          }
          @if (asking() === line.number) {
            <form (ngSubmit)="send()">
              <label [for]="'back-' + line.number">Why was it wrong?</label>
              <input
                pInputText
                [id]="'back-' + line.number"
                name="reason"
                [ngModel]="reason()"
                (ngModelChange)="reason.set($event)"
                maxlength="500"
                autocomplete="off" />
              <kv-refusal [submission]="sending" />
              <span class="row">
                <button pButton type="submit" size="small" [disabled]="reason().trim() === '' || sending.busy()">
                  Take it back
                </button>
                <button
                  pButton
                  type="button"
                  size="small"
                  severity="secondary"
                  [text]="true"
                  (click)="asking.set(undefined)">
                  Leave it
                </button>
              </span>
            </form>
          }
        </li>
      } @empty {
        <li class="kv-soft">Nothing yet.</li>
      }
    </ol>
    @if (lines().length > first && !all()) {
      <button type="button" class="kv-link" (click)="all.set(true)">All {{ lines().length }} records</button>
    }
  `,
  styles: `
    h2 {
      margin-bottom: 8px;
    }
    ol {
      display: grid;
      gap: 9px;
      margin-bottom: 10px;
    }
    li {
      padding-left: 10px;
      border-left: 4px solid var(--room);
      overflow-wrap: anywhere;
    }
    .sub {
      font-size: 0.88rem;
    }
    .gone > p:first-child {
      text-decoration: line-through;
      color: var(--kv-ink-soft);
    }
    form {
      display: grid;
      gap: 5px;
      margin-top: 6px;
    }
    .row {
      display: flex;
      gap: 6px;
    }
  `,
})
export class History {
  protected readonly shop = inject(ShopService);
  private readonly session = inject(Session);
  protected readonly sending = new Submission();
  readonly lines = input.required<readonly HistoryLine[]>();
  readonly changed = output();
  protected readonly first = FIRST;
  protected readonly all = signal(false);
  protected readonly asking = signal<number | undefined>(undefined);
  protected readonly reason = signal('');

  protected shown(): readonly HistoryLine[] {
    return this.all() ? this.lines() : this.lines().slice(0, FIRST);
  }

  /** How sure it is who did it; a password is the usual, and is said only where one asks. */
  protected sure = ({ how }: HistoryLine): string => (how ? HOW_WORDS[how] : '');
  protected proof = ({ how }: HistoryLine): string =>
    how === 'pin'
      ? ', by PIN'
      : how === 'openid'
        ? ', by OpenID'
        : how === 'demo'
          ? ', not proven'
          : how === 'stated'
            ? ', as stated'
            : '';

  /** A hand mends their own records; what others recorded is for those who lead. */
  protected mayTakeBack = ({ actor }: HistoryLine): boolean =>
    this.session.may('insert step') || (this.session.may('take back') && actor === this.shop.person()?.name);

  protected ask(number: number): void {
    this.sending.reset();
    this.reason.set('');
    this.asking.set(number);
  }

  protected send(): void {
    this.sending.send(
      `/changes/${this.asking()}/take-back`,
      { reason: this.reason().trim() } satisfies TakeBack,
      () => {
        this.asking.set(undefined);
        this.changed.emit();
      },
      { said: 'Taken back' },
    );
  }
}

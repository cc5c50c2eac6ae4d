import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { Answer, Question as Asked } from '@kalvet/core';
import { Refusal } from './refusal.component';
import { Session } from './session.service';
import { ShopService } from './shop.service';
import { Submission } from './submission';
import { WordsPipe } from './words.pipe';

/** A question is a choice with its price: what it is about, what it costs, and the buttons that decide it. */
@Component({
  selector: 'kv-question',
  imports: [Refusal, RouterLink, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p [class.urgent]="question().urgent">
      @if (question().pieceId; as id) {
        <a [routerLink]="['/pieces', id]">{{ question().text | words }}</a>
      } @else {
        {{ question().text | words }}
      }
    </p>
    @if (question().costs; as costs) {
      <p class="costs">{{ costs | words }}</p>
    }
    <div class="answers kv-no-print">
      @for (answer of question().answers; track $index) {
        @if (answer.open || session.may('decide')) {
          <button type="button" [disabled]="sending.busy()" data-test="answer" (click)="give(answer)">
            {{ answer.label | words }}
          </button>
        }
      }
    </div>
    <kv-refusal [submission]="sending" (override)="last && give(last, true)" />
  `,
  styles: `
    :host {
      display: block;
    }
    p {
      position: relative;
      padding-left: 17px;
    }
    .urgent::before {
      content: '';
      position: absolute;
      left: 1px;
      top: 5px;
      border: 5.5px solid transparent;
      border-top: 0;
      border-bottom: 10px solid var(--kv-alert);
    }
    a {
      text-decoration: none;
    }
    a:hover {
      text-decoration: underline;
    }
    .costs {
      font-size: 0.88rem;
      color: var(--kv-ink-soft);
    }
    .answers {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      padding: 4px 0 0 17px;
    }
    button {
      min-height: 30px;
      padding: 2px 11px;
      border: 1px solid var(--kv-line-strong);
      border-radius: 3px;
      background: var(--kv-paper);
      color: inherit;
      font: inherit;
      font-weight: 500;
      cursor: pointer;
    }
    button:hover {
      border-color: var(--kv-ink);
    }
    @media (max-width: 1000px) {
      button {
        min-height: 44px;
      }
    }
  `,
})
export class Question {
  private readonly router = inject(Router);
  private readonly shop = inject(ShopService);
  protected readonly session = inject(Session);
  protected readonly sending = new Submission();
  readonly question = input.required<Asked>();
  protected last: Answer | undefined;

  protected give(answer: Answer, override = false): void {
    this.last = answer;
    const { write, open, label } = answer;
    if (write)
      this.sending.send(write.path, write.body, () => undefined, {
        method: write.method,
        override,
        said: this.shop.words(label),
      });
    else if (open) void this.router.navigate([open.path], { queryParams: open.query ?? {} });
  }
}

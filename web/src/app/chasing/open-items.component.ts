import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { AddOpenItem, CloseOpenItem, LaneView, OpenItemEnd, OpenItemKind, OpenItemView } from '@kalvet/core';
import { OPEN_ITEM_ENDS, OPEN_ITEM_KINDS, OPEN_ITEM_NAMES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { newId } from '../shared/ids';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { May } from '../shared/may.directive';

/** What must be put back or taken out before patina: a ledger of its own, a line for each window, pin, core and part. */
@Component({
  selector: 'kv-open-items',
  imports: [May, FormsModule, ButtonModule, InputTextModule, SelectModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (item of sorted(); track item.id) {
        <li [class.closed]="item.closedAt !== null">
          <span>
            <b>{{ names[item.kind] }}</b>{{ item.what ? ', ' + item.what : '' }}
            <span class="kv-soft">{{ item.cast }}</span>
          </span>
          @if (item.closedAt) {
            <span class="kv-soft">{{ item.closedHow }} {{ shop.when(item.closedAt) }}</span>
          } @else {
            <span class="ends" *kvMay="'close item'">
              @for (end of ends; track end) {
                <button
                  pButton
                  type="button"
                  size="small"
                  severity="secondary"
                  [outlined]="true"
                  [disabled]="closing.busy()"
                  (click)="close(item, end)"
                  [attr.aria-label]="names[item.kind] + ' ' + item.what + ': ' + end">
                  {{ end }}
                </button>
              }
            </span>
          }
        </li>
      } @empty {
        <li class="kv-soft">Nothing was cut out, cut off or put in that must not be forgotten.</li>
      }
    </ul>
    <kv-refusal [submission]="closing" (reload)="changed.emit(); closing.reset()" />
    @if (adding()) {
      <form (ngSubmit)="add()" autocomplete="off">
        <p-select
          inputId="item-cast"
          name="cast"
          [options]="casts()"
          optionLabel="label"
          optionValue="id"
          [ngModel]="castId()"
          (ngModelChange)="castId.set($event)"
          ariaLabel="On which cast"
          appendTo="body" />
        <p-select
          inputId="item-kind"
          name="kind"
          [options]="kinds"
          optionLabel="label"
          optionValue="code"
          [ngModel]="kind()"
          (ngModelChange)="kind.set($event)"
          ariaLabel="What kind"
          appendTo="body" />
        <input
          pInputText
          id="item-what"
          name="what"
          [ngModel]="what()"
          (ngModelChange)="what.set($event)"
          placeholder="where, how big"
          aria-label="Where, how big"
          maxlength="300" />
        <button pButton type="submit" size="small" data-test="save-item" [disabled]="!castId() || sending.busy()">
          Add
        </button>
        <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="adding.set(false)">
          Back
        </button>
        <kv-refusal [submission]="sending" />
      </form>
    } @else if (casts().length > 0) {
      <button *kvMay="'open item'" type="button" class="kv-link" data-test="add-item" (click)="begin()">
        Add a line
      </button>
    }
  `,
  styles: `
    li {
      display: flex;
      justify-content: space-between;
      gap: 12px;
      align-items: center;
      padding: 3px 0;
      border-bottom: 1px solid var(--kv-line);
    }
    .closed b {
      font-weight: 400;
    }
    .ends {
      display: flex;
      gap: 4px;
    }
    form {
      display: grid;
      grid-template-columns: 150px 170px minmax(0, 1fr) auto auto;
      gap: 6px;
      margin-top: 6px;
    }
    form kv-refusal {
      grid-column: 1 / -1;
    }
  `,
})
export class OpenItems {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  protected readonly closing = new Submission();
  readonly items = input.required<readonly OpenItemView[]>();
  readonly lanes = input.required<readonly LaneView[]>();
  readonly changed = output();

  protected readonly names = OPEN_ITEM_NAMES;
  protected readonly ends = OPEN_ITEM_ENDS;
  protected readonly kinds = OPEN_ITEM_KINDS.map((code) => ({ code, label: OPEN_ITEM_NAMES[code] }));
  protected readonly adding = signal(false);
  protected readonly castId = signal<string | null>(null);
  protected readonly kind = signal<OpenItemKind>('window');
  protected readonly what = signal('');
  protected readonly sorted = computed(() =>
    [...this.items()].sort(
      (a, b) => Number(a.closedAt !== null) - Number(b.closedAt !== null) || a.openedAt.localeCompare(b.openedAt),
    ),
  );
  protected readonly casts = computed(() =>
    this.lanes().flatMap(({ attempts }) =>
      attempts.filter(({ state }) => state !== 'lost').map(({ castId, label }) => ({ id: castId, label })),
    ),
  );

  protected begin(): void {
    this.castId.set(this.casts()[0]?.id ?? null);
    this.what.set('');
    const { castId, kind, what } = this;
    this.sending.keep(`open item ${this.castId() ?? ''}`, { castId, kind, what });
    this.adding.set(true);
  }

  protected add(): void {
    const castId = this.castId();
    if (castId === null) return;
    const body: AddOpenItem = { id: newId(), castId, kind: this.kind(), what: this.what().trim() };
    this.sending.send('/open-items', body, () => {
      this.adding.set(false);
      this.changed.emit();
    });
  }

  protected close(item: OpenItemView, how: OpenItemEnd): void {
    const body: CloseOpenItem = { version: item.version, how, note: '' };
    this.closing.send(`/open-items/${item.id}/close`, body, () => this.changed.emit());
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, input, model, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { FreePiece } from '@kalvet/core';
import { ROOM_NAMES } from '@kalvet/core';
import { InputTextModule } from 'primeng/inputtext';
import { ShopService } from '../../shared/shop.service';

/** From so many pieces on they are found by typing. */
const FIND_FROM = 9;

/** The pieces that an order can have: where each stands, when it is out by plan and whose work it is. */
@Component({
  selector: 'kv-piece-picker',
  imports: [FormsModule, InputTextModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (pieces().length >= findFrom) {
      <input
        pInputText
        type="search"
        aria-label="Find a piece"
        placeholder="work, number or artist"
        [ngModelOptions]="{ standalone: true }"
        [ngModel]="words()"
        (ngModelChange)="words.set($event)" />
    }
    <ul [attr.aria-label]="pieceIds().length + ' pieces chosen'">
      @for (piece of shown(); track piece.pieceId) {
        <li>
          <label>
            <input
              type="checkbox"
              class="kv-tick"
              [checked]="chosen().has(piece.pieceId)"
              (change)="toggle(piece.pieceId)" />
            <span class="what">
              <b>{{ piece.label }}</b> <span class="kv-soft">{{ piece.artist }}</span>
            </span>
            <span class="kv-soft">{{ piece.room ? roomName[piece.room].toLowerCase() : 'not begun' }}</span>
            <span>{{ piece.plannedFinish ? 'out ' + shop.planned(piece.plannedFinish) : 'no date' }}</span>
          </label>
        </li>
      } @empty {
        <li class="kv-soft">{{ words() ? 'No piece of that name is free.' : 'Every piece stands in an order.' }}</li>
      }
    </ul>
  `,
  styles: `
    ul {
      max-height: 264px;
      overflow-y: auto;
      border-block: 1px solid var(--kv-line);
    }
    li + li {
      border-top: 1px solid var(--kv-line);
    }
    label {
      display: grid;
      grid-template-columns: 24px minmax(0, 1fr) 76px 116px;
      gap: 10px;
      align-items: center;
      min-height: 44px;
      cursor: pointer;
    }
    .what {
      display: flex;
      flex-wrap: wrap;
      gap: 0 10px;
    }
    li.kv-soft {
      padding: 10px 0;
    }
    input[type='search'] {
      width: 100%;
      margin-bottom: 6px;
    }
  `,
})
export class PiecePicker {
  protected readonly shop = inject(ShopService);
  readonly pieces = input.required<readonly FreePiece[]>();
  readonly pieceIds = model.required<string[]>();
  protected readonly words = signal('');
  protected readonly findFrom = FIND_FROM;
  protected readonly roomName = ROOM_NAMES;
  protected readonly chosen = computed(() => new Set(this.pieceIds()));
  /** What is chosen stays in sight, whatever is looked for. */
  protected readonly shown = computed(() => {
    const words = this.words().trim().toLowerCase();
    return this.pieces().filter(
      ({ pieceId, label, artist }) =>
        words === '' || this.chosen().has(pieceId) || `${label} ${artist}`.toLowerCase().includes(words),
    );
  });

  protected toggle(pieceId: string): void {
    this.pieceIds.update((ids) => (ids.includes(pieceId) ? ids.filter((id) => id !== pieceId) : [...ids, pieceId]));
  }
}

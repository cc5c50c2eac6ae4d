import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { HistoryLine } from '@kalvet/core';
import { ShopService } from './shop.service';
import { WordsPipe } from './words.pipe';

/** What happened to a record, the newest first, as it is told. */
@Component({
  selector: 'kv-record-history',
  imports: [WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>What happened</h2>
    <ol>
      @for (line of lines(); track line.number) {
        <li [class.bad]="line.bad" [class.gone]="line.takenBack">
          <p>{{ line.text | words }}</p>
          <p class="kv-soft">{{ shop.when(line.at) }} · {{ line.actor }}{{ line.takenBack ? ' · taken back' : '' }}</p>
        </li>
      } @empty {
        <li class="kv-soft">Nothing yet.</li>
      }
    </ol>
  `,
  styles: `
    ol {
      display: grid;
      gap: 9px;
      margin-top: 8px;
    }
    li {
      padding-left: 10px;
      border-left: 4px solid var(--kv-line-strong);
      overflow-wrap: anywhere;
    }
    .bad {
      border-left-color: var(--kv-alert);
    }
    .gone > p:first-child {
      text-decoration: line-through;
    }
    .kv-soft {
      font-size: 0.88rem;
    }
  `,
})
export class RecordHistory {
  protected readonly shop = inject(ShopService);
  readonly lines = input.required<readonly HistoryLine[]>();
}

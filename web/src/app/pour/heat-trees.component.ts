import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Id, KilnOut, PourAnswer, PourWindow, Text, TreeReady } from '@kalvet/core';
import { formatFigure, notReady, say } from '@kalvet/core';
import { ShopService } from '../shared/shop.service';
import { WordsPipe } from '../shared/words.pipe';
import { mouldWords, secondsInWords } from './pour-words';

/** What is still to be poured of a heat, a line a tree: whether it can be ready, and what it is aimed at. */
@Component({
  selector: 'kv-heat-trees',
  imports: [WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table>
      <thead>
        <tr>
          <th scope="col">Tree</th>
          <th scope="col">Ready</th>
          <th scope="col">At the cup</th>
          <th scope="col">Mould</th>
          <th scope="col">{{ outOf() }}</th>
          <th scope="col">Pour</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.treeId) {
          <tr>
            <th scope="row">{{ row.label }}</th>
            <td [class.kv-alert]="row.isLate" [class.late]="row.isLate">{{ row.stand | words }}</td>
            <td [title]="row.window.cup.inWords | words">
              <b>{{ row.cup }}</b>
            </td>
            <td class="whole">{{ row.mould }}</td>
            <td class="whole">{{ row.out }}</td>
            <td>{{ row.window.pace }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    table {
      width: 100%;
      margin: 6px 0;
      border-collapse: collapse;
      font-size: 0.88rem;
    }
    th,
    td {
      padding: 2px 10px 2px 0;
      text-align: left;
      font-weight: 400;
      vertical-align: top;
    }
    thead th {
      color: var(--kv-ink-soft);
      border-bottom: 1px solid var(--kv-line);
    }
    .whole {
      white-space: nowrap;
    }
    tbody th,
    td b {
      font-weight: 600;
      white-space: nowrap;
    }
  `,
})
export class HeatTrees {
  private readonly shop = inject(ShopService);
  readonly heat = input.required<PourAnswer['heats'][number]>();
  readonly ready = input.required<PourAnswer['ready']>();

  protected readonly outOf = computed(() => {
    const [first] = Object.values(this.heat().kilnOut);
    return first
      ? `Out of the kiln at ${this.shop.amount(first.fromC, '°C', 0)}, ${first.share === 1 ? 'bare' : 'wrapped'}`
      : 'Out of the kiln';
  });
  protected readonly rows = computed(() => {
    const { pourings, windows, kilnOut } = this.heat();
    return pourings.flatMap(({ treeId, label, outcome }) => {
      const window: PourWindow | undefined = windows[treeId];
      if (outcome !== null || !window) return [];
      const why = this.whyLate(label, this.ready()[treeId]);
      return [
        {
          treeId,
          label,
          window,
          isLate: why !== undefined,
          stand: why ?? this.stand(this.ready()[treeId]),
          cup: formatFigure(window.cup, 0, this.shop.units()),
          mould: mouldWords(window, this.shop),
          out: this.outWords(kilnOut, treeId),
        },
      ];
    });
  });

  /** Why it cannot be poured at the heat's hour; undefined where it can, or the heat has none. */
  private whyLate(label: string, ready: TreeReady | undefined): Text | undefined {
    const { plannedFor, state } = this.heat();
    return ready === undefined || plannedFor === null || state === 'running'
      ? undefined
      : notReady(label, ready, plannedFor);
  }

  private stand(ready: TreeReady | undefined): Text {
    if (!ready || ready.from === null) return '';
    return ready.needs === '' ? 'now' : say`from ${this.shop.planned(ready.from)}: ${ready.needs}`;
  }

  /** When a bare shell is as hot as it is to be after it left the kiln: too hot before, too cold after. */
  private outWords(kilnOut: Readonly<Record<Id, KilnOut>>, treeId: Id): string {
    const out = kilnOut[treeId];
    if (!out || !Number.isFinite(out.toS)) return '';
    if (out.toS <= 0) return 'too cold from the first';
    return out.fromS < 1
      ? `within ${secondsInWords(out.toS)}`
      : `${secondsInWords(out.fromS)} to ${secondsInWords(out.toS)}`;
  }
}

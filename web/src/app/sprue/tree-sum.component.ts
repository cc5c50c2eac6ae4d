import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Bars, StepForm } from '@kalvet/core';
import { DEFAULT_ALLOY_ID, alloyOf, chargeFromWax, cupSaid, treeMetal, usualCup } from '@kalvet/core';
import { readable } from './readable-bars';
import { FigureText } from '../shared/figure.component';
import { AmountPipe, WordsPipe } from '../shared/words.pipe';
import { ShopService } from '../shared/shop.service';

/** What a tree takes as it is being joined: casts, bars, cup, pour weight, yield, and whether the crucible gives it. */
@Component({
  selector: 'kv-tree-sum',
  imports: [AmountPipe, FigureText, RouterLink, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (found(); as tree) {
      <div role="status">
        <p>
          Pour weight <kv-figure [figure]="tree.pourWeight" />, yield
          <kv-figure [figure]="tree.yield" [decimals]="0" />
        </p>
        <p class="kv-soft">{{ tree.pourWeight.inWords | words }}</p>
        @if (tree.pourWeight.value > shop.settings().crucibleUsableKg) {
          <p class="kv-alert">
            More than the crucible gives ({{ shop.settings().crucibleUsableKg | amount: 'kg' : 0 }}).
          </p>
        }
      </div>
    }
    @for (way of form().waysUp; track way.name) {
      <div>
        <p>
          {{ way.name }} by its model: {{ way.heightMm | amount: 'mm' : 0 }} of metal, {{ way.vents.length }}
          {{ way.vents.length === 1 ? 'vent' : 'vents' }}, {{ way.gates.length }}
          {{ way.gates.length === 1 ? 'gate' : 'gates' }}
          <a [routerLink]="['/works', way.workId, 'model']" [queryParams]="{ tab: 'ways' }">where</a>
        </p>
        @for (vent of way.vents; track $index; let i = $index) {
          <p class="kv-soft">vent {{ i + 1 }}: {{ vent || 'high place' }}</p>
        }
        @for (gate of way.gates; track $index; let i = $index) {
          <p class="kv-soft">gate {{ i + 1 }}: {{ gate || 'low place' }}</p>
        }
      </div>
    }
    @if (!found()) {
      <p class="kv-soft">The pour weight shows once every cast on the tree has its wax weight.</p>
    }
  `,
  styles: `
    div {
      margin: 6px 0 10px;
      padding: 8px 10px;
      background: var(--kv-plaster);
    }
  `,
})
export class TreeSum {
  protected readonly shop = inject(ShopService);
  readonly form = input.required<StepForm>();
  readonly draft = input.required<Readonly<Record<string, unknown>>>();

  protected readonly found = computed(() => {
    const ids = (this.draft()['castIds'] ?? []) as string[];
    const waxes = ids.map((id) => this.form().casts.find((cast) => cast.id === id)?.waxKg ?? null);
    if (waxes.length === 0 || waxes.some((kg) => kg === null)) return undefined;
    const alloy = alloyOf(this.form().alloyId ?? DEFAULT_ALLOY_ID);
    const waxKg = waxes.reduce((sum: number, kg) => sum + kg!, 0);
    const castsKg = chargeFromWax(waxKg, alloy, this.form().waxDensity).value;
    return treeMetal({
      castsKg,
      bars: readable((this.draft()['bars'] ?? []) as Bars[]),
      cup: cupSaid(this.draft()['cup'], usualCup(this.shop.settings().cups, castsKg, alloy.densityGPerCm3)),
      densityGPerCm3: alloy.densityGPerCm3,
    });
  });
}

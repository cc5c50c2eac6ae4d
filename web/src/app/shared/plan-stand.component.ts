import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { PlanStand } from '@kalvet/core';
import { TooltipModule } from 'primeng/tooltip';
import { ShopService } from './shop.service';

/** Where the dates on a screen come from: `dates from 10:42, 3 changes since`. */
@Component({
  selector: 'kv-plan-stand',
  imports: [TooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span
    class="stand"
    [class.kv-alert]="plan().failed !== null"
    tabindex="0"
    [pTooltip]="more()"
    tooltipEvent="both"
    tooltipPosition="bottom"
    >{{ text() }}</span
  >`,
  styles: `
    .stand {
      font-size: 0.88rem;
      font-weight: 400;
      color: var(--kv-ink-soft);
    }
  `,
})
export class PlanStandText {
  private readonly shop = inject(ShopService);
  readonly plan = input.required<PlanStand>();

  protected readonly text = computed(() => {
    const { madeAt, changesSince, failed } = this.plan();
    if (madeAt === null) return failed === null ? 'no dates yet' : 'no dates: the planner found none';
    const when = this.shop.when(madeAt).replace(' today', '');
    const since = changesSince === 0 ? '' : `, ${changesSince} ${changesSince === 1 ? 'change' : 'changes'} since`;
    return `dates from ${when}${since}`;
  });
  protected readonly more = computed(() => {
    const { failed, changesSince, running } = this.plan();
    if (failed !== null) return failed;
    if (running) return 'Planned anew at this moment';
    return changesSince === 0
      ? 'Every change is in these dates'
      : 'Changes are planned by themselves as soon as they have settled';
  });
}

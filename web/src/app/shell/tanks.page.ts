import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { SupplyStock, TankView, TanksAnswer } from '@kalvet/core';
import { CHART_RULES, SLURRY_NAMES, SUPPLY_NAMES, addMinutes } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Drawer } from '../shared/drawer.component';
import { May } from '../shared/may.directive';
import { pageData } from '../shared/page-data';
import { ShopService } from '../shared/shop.service';
import { ShellTabs } from './shell-tabs.component';
import { SupplyForm } from './supply-form.component';
import { TankChart } from './tank-chart.component';
import { TankCheckForm } from './tank-check-form.component';
import { TankDecideForm } from './tank-decide-form.component';
import { TankForm } from './tank-form.component';

/** What runs out within two weeks is ordered now. */
const SOON_MIN = 14 * 1440;

/** The slurry tanks with their log and chart, and what the shell room has on its shelf. */
@Component({
  selector: 'kv-tanks',
  imports: [ButtonModule, Drawer, May, ShellTabs, SupplyForm, TankChart, TankCheckForm, TankDecideForm, TankForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tanks.page.html',
  styleUrls: ['../shared/list.page.css', './tanks.page.css'],
})
export class TanksPage {
  protected readonly shop = inject(ShopService);
  private readonly page = pageData<TanksAnswer>(() => '/tanks');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  /** `check <id>`, `decide <id>`, `tank <id>`, `new`, `supply`. */
  protected readonly panel = signal<string | null>(null);
  protected readonly doing = computed(() => this.panel()?.split(' ')[0]);
  protected readonly chosen = computed(() => {
    const id = this.panel()?.split(' ')[1];
    return this.answer()?.tanks.find(({ tank }) => tank.id === id);
  });
  protected readonly heading = computed(
    () =>
      ({ check: 'Look at a tank', decide: 'Decide', tank: 'The tank', new: 'The tank', supply: 'Delivery or count' })[
        this.doing() ?? ''
      ] ?? '',
  );
  protected readonly tanks = computed(() => (this.answer()?.tanks ?? []).map((view) => this.told(view)));

  private told(view: TankView) {
    const { tank, stand, limits, holdsKg, fullKg, use, checks } = view;
    const now = this.shop.now();
    const last = checks.at(-1);
    const s = (value: number) => this.shop.amount(value, 's', 1);
    const kg = (value: number) => this.shop.amount(value, 'kg', 0);
    const signs = last?.signs ?? [];
    return {
      view,
      about: `${SLURRY_NAMES[tank.slurry]} slurry, ${this.shop.amount(tank.litres, 'l', 0)}${tank.state === 'off' ? ', not in use' : ''}`,
      blocked: stand.blockedSince
        ? `${this.shop.words(stand.why ?? '')}, ${this.shop.when(stand.blockedSince)}. ${view.inDoubt} ${view.inDoubt === 1 ? 'coat' : 'coats'} in doubt.`
        : '',
      limits: limits
        ? `limits ${s(limits.low)} to ${s(limits.high)} from a base of ${this.shop.dayOf(tank.base!.from)} to ${this.shop.dayOf(tank.base!.to)}`
        : tank.lowS !== null || tank.highS !== null
          ? 'limits of its sheet; choose a base period for those of the chart'
          : 'no limits yet: choose a base period',
      last: last
        ? `${this.shop.when(last.check.at)}, ${last.by}${signs.length > 0 ? `: ${signs.map((sign) => CHART_RULES[sign]).join(', ')}` : ''}`
        : 'never',
      next: stand.nextCheckAt ? this.shop.when(stand.nextCheckAt) : 'now',
      overdue: tank.state === 'in use' && (stand.nextCheckAt === null || stand.nextCheckAt < now),
      holds: holdsKg === null ? 'no level was read' : `${kg(holdsKg)} of ${kg(fullKg)}`,
      level: holdsKg === null ? null : Math.min(100, (holdsKg / fullKg) * 100),
      lasts: holdsKg === null ? '–' : this.lasts(view.lastsUntil),
      soon: this.isSoon(view.lastsUntil),
      use: use ? `× ${use.factor.toFixed(2)} of what the coats take by the sum, ${use.n} times` : '',
      decisions: view.decisions
        .slice(0, 2)
        .map(
          ({ at, words, by, coatsStand }) =>
            `${this.shop.when(at)}, ${by}: ${words}; coats ${coatsStand ? 'stand' : 'stay in doubt'}`,
        ),
      log: [...checks].reverse().map((each) => {
        const { check, faults, by } = each;
        const added = check.toppedUp.map(
          ({ what, kg: kilograms }) => `${this.shop.amount(kilograms, 'kg', 1)} ${what}`,
        );
        return {
          id: check.id,
          when: this.shop.when(check.at),
          mixer: check.mixer === 'running' ? 'turns' : 'stood still',
          viscosity: check.viscosityS === null ? '–' : s(check.viscosityS),
          celsius: check.celsius === null ? '–' : this.shop.amount(check.celsius, '°C', 1),
          ph: check.ph === null ? '–' : check.ph.toFixed(1),
          level: check.level === null ? '–' : `${Math.round(check.level * 100)} %`,
          what: [
            ...faults.map((fault) => this.shop.words(fault)),
            ...each.signs.map((sign) => CHART_RULES[sign]),
            added.length > 0 ? `added ${added.join(', ')}` : '',
            check.sieved ? 'sieved' : '',
            check.note,
          ]
            .filter(Boolean)
            .join('; '),
          by,
          bad: faults.length > 0,
        };
      }),
    };
  }

  private lasts(until: string | null): string {
    return until ? `until ${this.shop.dayOf(until)}, by the coats that are planned` : 'for all coats that are planned';
  }

  private isSoon(until: string | null): boolean {
    return until !== null && until < addMinutes(this.shop.now(), SOON_MIN);
  }

  protected readonly stock = computed(() =>
    (this.answer()?.stock ?? []).map(({ what, kg, lastsUntil }: SupplyStock) => ({
      what: SUPPLY_NAMES[what],
      kg: this.shop.amount(kg, 'kg', 1),
      short: kg < 0,
      lasts: what === 'binder' || what.startsWith('flour') ? 'goes into the tanks' : this.lasts(lastsUntil),
      soon: this.isSoon(lastsUntil),
    })),
  );
  protected readonly movements = computed(() =>
    (this.answer()?.movements ?? []).map(({ at, what, says, kg }) => ({
      when: this.shop.dayOf(at),
      what: SUPPLY_NAMES[what],
      says: this.shop.words(says),
      kg: `${kg < 0 ? '−' : '+'}${this.shop.amount(Math.abs(kg), 'kg', 1)}`,
    })),
  );

  protected read(): void {
    this.page.read();
  }
}

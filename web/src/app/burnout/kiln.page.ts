import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { KilnAnswer, KilnTreeView } from '@kalvet/core';
import { packFloor, profileMinutes } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { SelectModule } from 'primeng/select';
import { Drawer } from '../shared/drawer.component';
import { newId } from '../shared/ids';
import { May } from '../shared/may.directive';
import { pageData } from '../shared/page-data';
import { Refusal } from '../shared/refusal.component';
import { Session } from '../shared/session.service';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { FireCurve } from './fire-curve.component';
import { KilnFloor } from './kiln-floor.component';
import { KilnLoad } from './kiln-load.component';
import { MeasureForm } from './measure-form.component';
import { ProfileForm } from './profile-form.component';

const sum = (values: readonly number[]): number => values.reduce((total, each) => total + each, 0);

/** The kiln: what waits for it laid on its floor, loads that are planned or burn, how it fires, and what came of it before. */
@Component({
  selector: 'kv-kiln',
  imports: [
    ButtonModule,
    Drawer,
    FireCurve,
    FormsModule,
    KilnFloor,
    KilnLoad,
    May,
    MeasureForm,
    ProfileForm,
    Refusal,
    RouterLink,
    SelectModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './kiln.page.html',
  styleUrls: ['../shared/list.page.css', './kiln.page.css'],
})
export class KilnPage {
  protected readonly shop = inject(ShopService);
  private readonly session = inject(Session);
  private readonly page = pageData<KilnAnswer>(() => '/kiln');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly sending = new Submission();
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  private readonly profileChosen = signal<string | null>(null);
  /** `tree <id>`, `profile <id>`, `profile`. */
  protected readonly panel = signal<string | null>(null);
  protected readonly mayPlan = computed(() => this.session.may('plan load', 'burnout'));
  private id = newId();

  /** How often a tree was fired, and how long it stood where a shell weakens. */
  private fired({ firings, above1000Minutes }: KilnTreeView): string {
    if (firings === 0) return '';
    const hot =
      above1000Minutes < 1
        ? ''
        : `, ${this.shop.amount(above1000Minutes / 60, 'h', 1)} above ${this.shop.amount(1000, '°C', 0)}`;
    return `, fired ${firings} ${firings === 1 ? 'time' : 'times'}${hot}`;
  }

  protected readonly waiting = computed(() => {
    const now = this.shop.now();
    return (this.answer()?.waiting ?? []).map((tree) => ({
      tree,
      size: `${this.shop.amount(tree.acrossMm, 'mm', 0)} × ${this.shop.amount(tree.deepMm, 'mm', 0)}, ${this.shop.amount(tree.highMm, 'mm', 0)} high`,
      use: `${tree.use === 'block' ? ', block' : tree.use === 'dewax' ? ', dewax' : ''}${this.fired(tree)}`,
      kg: tree.kg === null ? '–' : this.shop.amount(tree.kg, 'kg', 1),
      stand:
        tree.waits.length > 0
          ? this.shop.waits(tree.waits)
          : tree.readyAt && tree.readyAt > now
            ? `dry ${this.shop.when(tree.readyAt)}`
            : 'ready',
      ready: tree.waits.length === 0 && (tree.readyAt === null || tree.readyAt <= now),
      fits: this.alsoFits().has(tree.treeId),
    }));
  });
  private readonly inLoad = computed(() =>
    (this.answer()?.waiting ?? []).filter(({ treeId }) => this.chosen().has(treeId)),
  );
  private readonly floor = computed(() => {
    const { acrossMm, deepMm, gapMm } = this.answer()?.floor ?? { acrossMm: 1, deepMm: 1, gapMm: 0 };
    return { acrossMm, deepMm, gapMm };
  });
  private lay(trees: readonly KilnTreeView[]) {
    return packFloor(
      trees.map(({ treeId, acrossMm, deepMm }) => ({ id: treeId, acrossMm, deepMm })),
      this.floor(),
    );
  }
  private readonly packed = computed(() => this.lay(this.inLoad()));
  protected readonly stands = computed(() =>
    this.packed().placed.map(({ id, ...floor }) => ({
      treeId: id,
      floor,
      label: this.inLoad().find(({ treeId }) => treeId === id)!.label,
    })),
  );
  /** Which of those that wait would still find a place beside the chosen ones. */
  private readonly alsoFits = computed(() => {
    const chosen = this.inLoad();
    if (chosen.length === 0) return new Set<string>();
    const others = (this.answer()?.waiting ?? []).filter(
      ({ treeId, use }) => !this.chosen().has(treeId) && use === chosen[0]!.use,
    );
    return new Set(others.filter((tree) => this.lay([...chosen, tree]).left.length === 0).map(({ treeId }) => treeId));
  });
  protected readonly sums = computed(() => {
    const { floor, mostKg } = this.answer()!;
    const trees = this.inLoad();
    const kg = sum(trees.map((tree) => tree.kg ?? 0));
    const high = Math.max(0, ...trees.map(({ highMm }) => highMm));
    const covered =
      sum(this.packed().placed.map(({ acrossMm, deepMm }) => acrossMm * deepMm)) / (floor.acrossMm * floor.deepMm);
    const left = this.packed().left.map((id) => trees.find(({ treeId }) => treeId === id)!.label);
    return {
      words: `${trees.length} ${trees.length === 1 ? 'tree' : 'trees'} · ${this.shop.amount(kg, 'kg', 0)} of ${this.shop.amount(mostKg, 'kg', 0)} · highest ${this.shop.amount(high, 'mm', 0)} of ${this.shop.amount(floor.highMm, 'mm', 0)} · ${Math.round(covered * 100)} % of the floor`,
      wrong: [
        ...(left.length > 0 ? [`no place for ${left.join(', ')}`] : []),
        ...(high > floor.highMm ? ['too high for the kiln'] : []),
        ...(kg > mostKg ? ['heavier than its floor bears'] : []),
        ...(new Set(trees.map(({ use }) => use)).size > 1
          ? ['what loses its wax, what is fired and what is a block go into loads of their own']
          : []),
      ],
    };
  });
  protected readonly use = computed(() => this.inLoad()[0]?.use ?? 'shell');
  protected readonly profiles = computed(() =>
    (this.answer()?.profiles ?? []).filter(({ use, state }) => use === this.use() && state === 'in use'),
  );
  protected readonly profile = computed(
    () => this.profiles().find(({ id }) => id === this.profileChosen()) ?? this.profiles()[0],
  );
  protected readonly told = computed(() =>
    (this.answer()?.profiles ?? []).map((profile) => ({
      profile,
      takes: this.shop.amount(profileMinutes(profile) / 60, 'h', 1),
    })),
  );
  protected readonly past = computed(() =>
    (this.answer()?.past ?? []).map((load) => ({
      ...load,
      when: load.endedAt ? this.shop.dayOf(load.endedAt) : '–',
      top: load.topC === null ? '–' : this.shop.amount(load.topC, '°C', 0),
      wax:
        load.waxInKg === null || load.waxBackKg === null
          ? '–'
          : `${this.shop.amount(load.waxBackKg, 'kg', 1)} of ${this.shop.amount(load.waxInKg, 'kg', 1)}`,
      missing:
        load.waxInKg && load.waxBackKg !== null
          ? Math.round(((load.waxInKg - load.waxBackKg) / load.waxInKg) * 100)
          : null,
      energy: load.energyKwh === null ? '–' : this.shop.amount(load.energyKwh, 'kWh', 0),
    })),
  );
  protected readonly months = computed(() =>
    (this.answer()?.wax ?? []).map((month) => ({
      ...month,
      name: this.monthName(month.month),
      in: this.shop.amount(month.inKg, 'kg', 1),
      back: this.shop.amount(month.backKg, 'kg', 1),
      share: month.inKg > 0 ? `${Math.round((month.backKg / month.inKg) * 100)} %` : '–',
      missing: this.shop.amount(month.missingKg, 'kg', 1),
      energy: this.shop.amount(month.energyKwh, 'kWh', 0),
    })),
  );
  protected readonly measured = computed(() => {
    const id = this.panel()?.startsWith('tree ') ? this.panel()!.slice(5) : undefined;
    return this.answer()?.waiting.find(({ treeId }) => treeId === id);
  });
  protected readonly editing = computed(() => {
    const id = this.panel()?.startsWith('profile ') ? this.panel()!.slice(8) : undefined;
    return this.answer()?.profiles.find((each) => each.id === id);
  });

  private monthName(month: string): string {
    const [day, name, year] = this.shop.day(`${month}-15`).split(' ').slice(1);
    return [name, year ?? month.slice(0, 4)].join(' ') || String(day);
  }

  protected choose(treeId: string, on: boolean): void {
    this.chosen.update((chosen) => {
      const next = new Set(chosen);
      if (on) next.add(treeId);
      else next.delete(treeId);
      return next;
    });
  }

  /** As many of those that are ready as find a place, those that wait longest first. */
  protected fill(): void {
    const ready = this.waiting()
      .filter(({ ready: is }) => is)
      .map(({ tree }) => tree);
    const use = ready[0]?.use;
    const chosen: KilnTreeView[] = [];
    for (const tree of ready) {
      if (tree.use !== use || tree.highMm > this.answer()!.floor.highMm) continue;
      if (this.lay([...chosen, tree]).left.length === 0) chosen.push(tree);
    }
    this.chosen.set(new Set(chosen.map(({ treeId }) => treeId)));
  }

  protected chooseProfile(id: string): void {
    this.profileChosen.set(id);
  }

  protected plan(): void {
    const body = {
      id: this.id,
      treeIds: this.inLoad().map(({ treeId }) => treeId),
      profileId: this.profile()?.id ?? null,
    };
    this.sending.send(
      '/loads',
      body,
      () => {
        this.id = newId();
        this.chosen.set(new Set());
      },
      { said: `Load of ${body.treeIds.length} planned` },
    );
  }

  protected read(): void {
    this.page.read();
  }
}

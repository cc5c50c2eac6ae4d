import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { CoatPlan, Layer, SealLayer } from '@kalvet/core';
import { COAT_METHODS, SLURRIES, SLURRY_NAMES, STUCCOS, STUCCO_METHODS, USUAL_COAT_PLAN } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Field } from '../shared/field.component';
import { May } from '../shared/may.directive';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { Session } from '../shared/session.service';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { ShellTabs } from './shell-tabs.component';

type Mutable<T> = { -readonly [K in keyof T]: T[K] };
const labelled = (codes: readonly string[], names: Readonly<Record<string, string>> = {}) =>
  codes.map((code) => ({ code, label: names[code] ?? code }));

/** How the shop shells: how many coats by the metal's height, and what each is made of. */
@Component({
  selector: 'kv-coat-plan',
  imports: [ButtonModule, Field, FormsModule, InputTextModule, May, QuantityInput, Refusal, SelectModule, ShellTabs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './coat-plan.page.html',
  styleUrls: ['../shared/list.page.css', './coat-plan.page.css'],
})
export class CoatPlanPage {
  protected readonly shop = inject(ShopService);
  private readonly session = inject(Session);
  protected readonly sending = new Submission();
  protected readonly may = computed(() => this.session.may('save coat plan', 'shell'));
  protected readonly plans = computed(() => this.shop.settings().coatPlans);
  protected readonly code = signal('');
  /** As it is being changed; its number is what whoever changes it saw. */
  protected readonly draft = signal<CoatPlan>(USUAL_COAT_PLAN);
  protected readonly seen = signal(0);
  protected readonly slurries = labelled(SLURRIES, SLURRY_NAMES);
  protected readonly stuccos = labelled(STUCCOS.filter((each) => each !== 'none'));
  protected readonly methods = labelled(COAT_METHODS);
  protected readonly stuccoMethods = labelled(STUCCO_METHODS);
  protected readonly changed = computed(() => {
    const kept = this.plans().find(({ code }) => code === this.draft().code);
    return JSON.stringify(kept) !== JSON.stringify(this.draft());
  });

  constructor() {
    effect(() => {
      const plans = this.plans();
      const code = this.code();
      untracked(() => {
        const plan = plans.find((each) => each.code === code) ?? plans[0];
        // What is being typed stays until it is kept or given up.
        if (plan && (this.seen() !== plan.number || this.draft().code !== plan.code)) this.open(plan);
      });
    });
  }

  protected open(plan: CoatPlan): void {
    this.sending.reset();
    this.draft.set(plan);
    this.seen.set(plan.number);
    this.code.set(plan.code);
  }

  /** Another school, beginning as this one. */
  protected another(): void {
    const codes = new Set(this.plans().map(({ code }) => code));
    const code = Array.from({ length: 99 }, (_, i) => `school-${i + 2}`).find((each) => !codes.has(each))!;
    this.draft.update((plan) => ({ ...plan, code, number: 0, name: `${plan.name}, another school` }));
    this.seen.set(0);
  }

  protected put(patch: Partial<CoatPlan>): void {
    this.draft.update((plan) => ({ ...plan, ...patch }));
  }

  protected putLayer(place: number, patch: Partial<Layer>): void {
    this.put({ layers: this.draft().layers.map((each, i) => (i === place ? { ...each, ...patch } : each)) });
  }

  protected putSeal(patch: Partial<SealLayer>): void {
    this.put({ seal: { ...this.draft().seal, ...patch } });
  }

  protected putClass(place: number, patch: Partial<Mutable<CoatPlan['classes'][number]>>): void {
    this.put({ classes: this.draft().classes.map((each, i) => (i === place ? { ...each, ...patch } : each)) });
  }

  protected addLayer(): void {
    const { layers } = this.draft();
    const last = layers.at(-1)!;
    const from = (layers.at(-2)?.untilCoat ?? 0) + 1;
    this.put({ layers: [...layers.slice(0, -1), { ...last, untilCoat: from }, { ...last, untilCoat: null }] });
  }

  protected dropLayer(place: number): void {
    const layers = this.draft().layers.filter((_, i) => i !== place);
    this.put({ layers: layers.map((each, i) => (i === layers.length - 1 ? { ...each, untilCoat: null } : each)) });
  }

  protected addClass(): void {
    const { classes } = this.draft();
    const last = classes.at(-1)!;
    const before = classes.at(-2)?.upToMm ?? 100;
    this.put({ classes: [...classes.slice(0, -1), { upToMm: before + 100, coats: last.coats }, last] });
  }

  protected dropClass(place: number): void {
    const classes = this.draft().classes.filter((_, i) => i !== place);
    this.put({ classes: classes.map((each, i) => (i === classes.length - 1 ? { ...each, upToMm: null } : each)) });
  }

  protected readonly round = Math.round;

  protected undo(): void {
    this.open(this.plans().find(({ code }) => code === this.draft().code) ?? this.plans()[0]!);
  }

  protected wrong(field: string): string | undefined {
    return this.sending.fields()[`plan.${field}`];
  }

  protected from(place: number): number {
    return (this.draft().layers[place - 1]?.untilCoat ?? 0) + 1;
  }

  protected save(): void {
    const plan = this.draft();
    this.sending.send<{ number: number }>(
      '/shell/coat-plans',
      { seen: this.seen(), plan },
      ({ number }) => {
        this.code.set(plan.code);
        this.seen.set(number);
        this.draft.set({ ...plan, number });
        this.shop.load().subscribe();
      },
      { said: `Coat plan ${plan.name} kept` },
    );
  }
}

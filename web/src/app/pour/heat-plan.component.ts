import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { EventAnswer, HeatAnswer, StepForm } from '@kalvet/core';
import type { ChangeHeat, HeatPlan as HeatGiven, PlanHeat, Text } from '@kalvet/core';
import { DEFAULT_ALLOY_ID, USUAL_ADDITION, alloyOf, charge } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Cautions } from '../shared/cautions.component';
import { newId } from '../shared/ids';
import { Field } from '../shared/field.component';
import { QuantityInput } from '../shared/quantity-input.component';
import { AmountPipe, WordsPipe } from '../shared/words.pipe';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { When } from '../shared/when/when.component';

interface TreeRow {
  readonly treeId: string;
  readonly label: string;
  readonly kg: number | null;
  /** Somebody typed over what was worked out. */
  readonly typed: boolean;
  readonly words: Text;
  readonly why: string;
  readonly on: boolean;
}

interface ChargeRow {
  what: 'ingot' | 'returns' | 'addition';
  kg: number | null;
  lot: string;
  dry: boolean;
}

/** Less than this of returns is not worth a line of its own. */
const WORTH_CHARGING_KG = 0.5;
/** So many trees are named that would fill a heat. */
const MOST_FITTING = 6;

/** Plans a heat: trees in pouring order, what goes into the crucible, and how much of it that fills. */
@Component({
  selector: 'kv-heat-plan',
  imports: [
    FormsModule,
    ButtonModule,
    AmountPipe,
    When,
    Field,
    QuantityInput,
    InputTextModule,
    SelectModule,
    Cautions,
    Refusal,
    WordsPipe,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './heat-plan.component.html',
  styleUrl: '../route/panel.css',
  styles: `
    .line {
      display: grid;
      grid-template-columns: 112px 96px minmax(0, 1fr) 58px 28px;
      gap: 5px;
      align-items: center;
      margin-bottom: 5px;
    }
    .dry {
      display: flex;
      gap: 5px;
      align-items: center;
    }
    .order {
      display: flex;
    }
    .crucible {
      position: relative;
      height: 20px;
      margin: 8px 0 4px;
      border: 1px dashed var(--kv-line-strong);
    }
    .crucible i {
      position: absolute;
      inset: 0 auto 0 0;
      background: linear-gradient(90deg, #f2cf6b, var(--room-pour));
    }
    .crucible.over i {
      background: var(--kv-alert);
    }
  `,
})
export class HeatPlan {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly form = input.required<StepForm>();
  readonly heat = input<HeatAnswer>();
  readonly planned = output<string>();
  readonly cancelled = output();

  protected readonly trees = signal<TreeRow[]>([]);
  protected readonly lines = signal<ChargeRow[]>([]);
  protected readonly plannedFor = signal<Date | null>(null);
  /** The pot it is melted in; null where the shop keeps none. */
  protected readonly potId = signal<string | null>(null);
  protected readonly pots = computed(() =>
    this.form().pots.map(({ id, name, heats, lifeHeats }) => ({
      id,
      label: `${name}, ${heats} of ${lifeHeats} heats`,
    })),
  );
  private readonly pot = computed(() => this.form().pots.find(({ id }) => id === this.potId()));
  protected readonly whats = [
    { code: 'ingot', label: 'ingot' },
    { code: 'returns', label: 'returns' },
    { code: 'addition', label: 'addition' },
  ];
  protected readonly ofLots = ['ingot', 'addition'] as const;
  private id = newId();

  protected readonly alloy = computed(() => alloyOf(this.form().alloyId ?? DEFAULT_ALLOY_ID));
  protected readonly found = computed(() => {
    const { crucibleHoldsKg, meltLoss, pigReserveKg, returnsShare } = this.shop.settings();
    // A heat keeps what it was planned with, whatever the shop has set since.
    const heat = this.heat();
    const pourWeightsKg = this.trees().flatMap(({ on, kg }) => (on && kg ? [kg] : []));
    return charge({
      pourWeightsKg,
      meltLoss: heat?.meltLoss ?? meltLoss,
      pigReserveKg: heat?.pigReserveKg ?? pigReserveKg,
      returnsShare,
      returnsKg: this.form().returnsAtHandKg,
      holdsKg: this.pot()?.holdsKg ?? heat?.holdsKg ?? crucibleHoldsKg,
      usableKg: this.usableKg(),
    });
  });
  private readonly usableKg = computed(
    () => this.pot()?.usableKg ?? this.heat()?.usableKg ?? this.shop.settings().crucibleUsableKg,
  );
  protected readonly share = computed(() => Math.min(100, (this.found().charge.value / this.usableKg()) * 100));

  constructor() {
    effect(() => {
      const form = this.form();
      const heat = this.heat();
      untracked(() => this.start(form, heat));
    });
  }

  private start(form: StepForm, heat: HeatAnswer | undefined): void {
    this.trees.set(treeRows(form, heat));
    this.lines.set(
      heat?.chargeLines.map(({ what, kg, lot, dry }) => ({
        what: what as ChargeRow['what'],
        kg,
        lot,
        dry,
      })) ?? this.proposal(),
    );
    this.potId.set(heat ? heat.crucibleId : (form.pots[0]?.id ?? null));
    if (heat?.plannedFor) this.plannedFor.set(this.shop.picker(heat.plannedFor));
    if (!heat) this.fill();
    const { trees, lines, plannedFor, potId } = this;
    const name = heat ? `heat ${heat.id} ${heat.version}` : `heat with ${form.step.id}`;
    this.sending.keep(name, { trees, lines, plannedFor, potId });
  }

  /** Trees that are ready and for which the crucible has room, the heaviest first. */
  protected readonly fitting = computed(() =>
    this.trees()
      .map((row, place) => ({ ...row, place }))
      .filter(({ on, why, kg }) => !on && why === '' && kg !== null && kg <= this.found().freeKg)
      .sort((a, b) => b.kg! - a.kg!)
      .slice(0, MOST_FITTING),
  );
  /** Somebody typed into the charge: it follows the trees no longer by itself. */
  private ownCharge = false;

  protected setTree(place: number, patch: Partial<TreeRow>): void {
    this.trees.update((rows) => rows.map((row, i) => (i === place ? { ...row, ...patch } : row)));
    if (!this.ownCharge && !this.heat()) this.fill();
  }

  protected typeLine(place: number, patch: Partial<ChargeRow>): void {
    this.ownCharge = true;
    this.setLine(place, patch);
  }

  protected move(place: number, by: number): void {
    this.trees.update((rows) => {
      const moved = [...rows];
      const [row] = moved.splice(place, 1);
      moved.splice(place + by, 0, row!);
      return moved;
    });
  }

  protected setLine(place: number, patch: Partial<ChargeRow>): void {
    this.lines.update((lines) => lines.map((line, i) => (i === place ? { ...line, ...patch } : line)));
  }

  protected addLine(): void {
    this.lines.update((lines) => [...lines, { what: 'returns', kg: null, lot: '', dry: false }]);
  }

  protected removeLine(place: number): void {
    this.lines.update((lines) => lines.filter((_, i) => i !== place));
  }

  /** Returns as far as the shop's share and what is at hand allow, ingot for the rest. */
  private proposal(): ChargeRow[] {
    const { lots, returnsAtHandKg } = this.form();
    const markOf = (what: 'ingot' | 'addition') => lots.find((lot) => lot.what === what)?.mark ?? '';
    return [
      line('ingot', markOf('ingot')),
      ...(returnsAtHandKg >= WORTH_CHARGING_KG ? [line('returns')] : []),
      ...(this.alloy().addition === 'none' ? [] : [line('addition', markOf('addition'))]),
    ];
  }

  /** Lots that a line can be of, for its field to choose from. */
  protected lotsFor(what: ChargeRow['what']): StepForm['lots'] {
    return this.form().lots.filter((lot) => lot.what === what);
  }

  /** Puts what the trees ask for into the lines: returns rounded down, ingot up, each to 100 g. */
  protected fill(): void {
    if (!this.lines().some(({ what }) => what === 'ingot'))
      this.lines.update((lines) => (lines.length === 0 ? this.proposal() : [line('ingot'), ...lines]));
    const lines = this.lines();
    const returns = lines.findIndex(({ what }) => what === 'returns');
    const ingot = lines.findIndex(({ what }) => what === 'ingot');
    if (returns >= 0) this.setLine(returns, { kg: Math.floor(this.found().returnsKg * 10) / 10 });
    const added = this.lines().findIndex(({ what }) => what === 'addition');
    if (added >= 0) this.setLine(added, { kg: Math.round(this.found().charge.value * USUAL_ADDITION * 100) / 100 });
    const others = this.lines().reduce((sum, { kg }, i) => (i === ingot ? sum : sum + (kg ?? 0)), 0);
    if (ingot >= 0)
      this.setLine(ingot, {
        kg: Math.max(0, Math.ceil((this.found().charge.value - others) * 10 - 1e-6) / 10),
      });
  }

  protected save(override = false): void {
    const at = this.plannedFor();
    const body: HeatGiven = {
      plannedFor: at ? this.shop.instantOf(at) : null,
      trees: this.trees()
        .filter(({ on }) => on)
        .map(({ treeId, kg, typed }) => ({ treeId, ...(typed && kg !== null ? { plannedKg: kg } : {}) })),
      chargeLines: this.lines().flatMap(({ what, kg, lot, dry }) =>
        kg !== null && kg !== 0
          ? [{ what, alloyId: what === 'addition' ? null : this.alloy().id, kg, lot: lot.trim(), dry }]
          : [],
      ),
      ...(this.potId() === null ? {} : { crucibleId: this.potId() }),
    };
    const heat = this.heat();
    if (heat) {
      const change: ChangeHeat = { version: heat.version, ...body };
      this.sending.send(`/heats/${heat.id}`, change, () => this.planned.emit(heat.id), {
        override,
        method: 'put',
        said: 'Heat changed',
      });
    } else {
      const plan: PlanHeat = { id: this.id, alloyId: this.alloy().id, ...body };
      this.sending.send<EventAnswer & { id: string }>(
        '/heats',
        plan,
        ({ id }) => {
          this.id = newId();
          this.planned.emit(id);
        },
        { override, said: 'Heat planned' },
      );
    }
  }
}

const line = (what: ChargeRow['what'], lot = ''): ChargeRow => ({ what, kg: null, lot, dry: false });

/** Every tree that the heat has or could take: its own in pouring order, also those that still wait for something. */
function treeRows({ companions, step }: StepForm, heat: HeatAnswer | undefined): TreeRow[] {
  const offered = new Map(companions.map((tree) => [tree.treeId, tree]));
  const own = (heat?.pourings ?? []).map((pouring): TreeRow => {
    const tree = offered.get(pouring.treeId);
    return {
      treeId: pouring.treeId,
      label: pouring.label,
      kg: pouring.plannedKg,
      typed: pouring.plannedSource === 'typed',
      words: pouring.plannedSource === 'typed' ? 'typed in the heat' : (tree?.pour?.inWords ?? ''),
      why: pouring.waits.length > 0 ? `waits for ${pouring.waits.join(', ')}` : '',
      on: true,
    };
  });
  const others = companions
    .filter(({ treeId }) => own.every((row) => row.treeId !== treeId))
    .map((tree): TreeRow => ({
      treeId: tree.treeId,
      label: tree.label,
      kg: tree.pour?.value ?? null,
      typed: false,
      words: tree.pour?.inWords ?? '',
      why: tree.ready ? '' : tree.why,
      on: heat === undefined && tree.treeId === step.carrierId,
    }));
  return [...own, ...others];
}

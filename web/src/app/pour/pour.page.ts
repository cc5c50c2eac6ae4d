import type { CdkDrag, CdkDropList } from '@angular/cdk/drag-drop';
import { DragDropModule } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type {
  ChangeHeat,
  ComingTree,
  HeatFill,
  PlanHeat,
  PourAnswer,
  PourTreeView,
  PourWindow,
  Text,
} from '@kalvet/core';
import { CREW_ROLE_NAMES, alloyOf, formatFigure } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Drawer } from '../shared/drawer.component';
import { StepPanel } from '../route/step-panel.component';
import { newId } from '../shared/ids';
import { pageData } from '../shared/page-data';
import { PlanStandText } from '../shared/plan-stand.component';
import { Question } from '../shared/question.component';
import { AmountPipe, WordsPipe } from '../shared/words.pipe';
import { Refusal } from '../shared/refusal.component';
import { Session } from '../shared/session.service';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { HeatEnd } from './heat-end.component';
import { HeatTrees } from './heat-trees.component';
import { IntoHeats } from './into-heats.component';
import type { PouredTree } from './pour-order';
import { asGiven, mayArrange, overCrucible, treeOf, withTreeAt } from './pour-order';
import { mouldWords } from './pour-words';
import { May } from '../shared/may.directive';

type HeatView = PourAnswer['heats'][number];

interface Dragged extends PouredTree {
  readonly alloyId: string;
  readonly from: string | null;
}

/** The pour days: heats as bars of metal with their trees in pouring order, and what waits for one. */
@Component({
  selector: 'kv-pour',
  imports: [
    May,
    AmountPipe,
    WordsPipe,
    RouterLink,
    DragDropModule,
    ButtonModule,
    Drawer,
    HeatEnd,
    HeatTrees,
    IntoHeats,
    PlanStandText,
    Question,
    Refusal,
    StepPanel,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './pour.page.html',
  styleUrl: './pour.page.css',
})
export class PourPage {
  protected readonly shop = inject(ShopService);
  protected readonly session = inject(Session);
  protected readonly sending = new Submission();
  private readonly page = pageData<PourAnswer>(() => '/pour');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly stepId = signal<string | null>(null);
  protected readonly said = signal<Text>('');

  protected readonly heats = computed(() =>
    (this.answer()?.heats ?? []).map((heat) => ({
      heat,
      alloy: alloyOf(heat.alloyId).name,
      may: mayArrange(heat),
      // The next tree to be poured opens the heat's panel.
      first: heat.pourings.find(({ outcome, stepId }) => outcome === null && stepId !== null)?.stepId ?? null,
      over: heat.pourings.length > 0 && heat.pourings.every(({ outcome }) => outcome !== null),
      bars: heat.pourings.map((pouring, i) => ({
        pouring,
        share: (pouring.plannedKg / heat.usableKg) * 100,
        // From hot to cool: the first tree gets the hottest metal.
        heatShare: heat.pourings.length > 1 ? i / (heat.pourings.length - 1) : 0,
        window: heat.windows[pouring.treeId],
      })),
      asks: (this.answer()?.asks ?? []).filter(({ key }) => key === `heat ${heat.id}`),
      fill: mayArrange(heat) ? (this.answer()?.fills[heat.id] ?? []) : [],
      freeShare: Math.max(0, (heat.freeKg / heat.usableKg) * 100),
    })),
  );
  protected readonly waiting = computed(() => {
    const now = this.shop.now();
    return (this.answer()?.waiting ?? []).map((tree) => ({
      tree,
      alloy: alloyOf(tree.alloyId).name,
      ready: tree.waits.length === 0 && (tree.readyAt === null || tree.readyAt <= now),
    }));
  });
  /** What was poured and not looked at, and whether it can be yet. */
  protected readonly looks = computed(() => {
    const now = this.shop.now();
    return (this.answer()?.looks ?? []).map((look) => ({ look, ready: look.from <= now }));
  });
  /** Trees that are on their way, and the heats that each could be ready for. */
  protected readonly coming = computed(() =>
    (this.answer()?.coming ?? []).map((tree) => ({
      tree,
      alloy: alloyOf(tree.alloyId).name,
      heats: this.heatsFor(tree).filter(({ plannedFor }) => plannedFor !== null && plannedFor >= tree.ready.from!),
    })),
  );
  protected readonly roleNames = CREW_ROLE_NAMES;
  protected readonly heatIds = computed(() => this.heats().map(({ heat }) => heat.id));

  protected windowWords(window: PourWindow): string {
    const cup = formatFigure(window.cup, 0, this.shop.units());
    return `${cup} at the cup, mould ${mouldWords(window, this.shop)}, ${window.pace}`;
  }

  /** A tree goes only where its alloy is, and only into a heat from which nothing was poured. */
  protected readonly mayEnter = (drag: CdkDrag<Dragged>, list: CdkDropList<HeatView | null>): boolean =>
    list.data === null || (mayArrange(list.data) && list.data.alloyId === drag.data.alloyId);

  protected dragOf(heat: HeatView, pouring: HeatView['pourings'][number]): Dragged {
    return { ...treeOf(pouring), alloyId: heat.alloyId, from: heat.id };
  }

  protected dragOfWaiting(tree: PourTreeView): Dragged {
    return { treeId: tree.carrierId, plannedKg: tree.pourKg ?? 0, typed: false, alloyId: tree.alloyId, from: null };
  }

  /** Puts a tree at a place in a heat, or, without a heat, takes it out of its own. */
  protected moveTo(dragged: Dragged, target: HeatView | null, place: number): void {
    const source = this.answer()?.heats.find(({ id }) => id === dragged.from);
    this.said.set('');
    if (!target) {
      if (source)
        this.arrange(
          source,
          source.pourings.map(treeOf).filter(({ treeId }) => treeId !== dragged.treeId),
          'Taken out of the heat',
        );
      return;
    }
    if (dragged.plannedKg <= 0)
      return this.said.set('Its pour weight is not known: open it and enter the kilograms in its heat.');
    const whole = withTreeAt(target.pourings.map(treeOf), dragged, place);
    // Where there is no room, it takes the place of those that cannot be ready.
    const late = this.lateIn(target);
    const isSwap = source?.id !== target.id && overCrucible(target, whole) !== undefined && late.size > 0;
    const trees = isSwap ? whole.filter(({ treeId }) => !late.has(treeId)) : whole;
    const over = overCrucible(target, trees);
    if (over && source?.id !== target.id) return this.said.set(over);
    const arrange = () => this.arrange(target, trees, 'Heat arranged');
    if (source && source.id !== target.id)
      this.send(
        source,
        source.pourings.map(treeOf).filter(({ treeId }) => treeId !== dragged.treeId),
        arrange,
        '',
      );
    else arrange();
  }

  /** Trees of a heat that cannot be poured at its hour. */
  private lateIn({ plannedFor, pourings }: HeatView): ReadonlySet<string> {
    const { ready = {} } = this.answer() ?? {};
    if (plannedFor === null) return new Set();
    return new Set(
      pourings
        .filter(({ treeId }) => ready[treeId] !== undefined && (ready[treeId].from ?? '9') > plannedFor)
        .map(({ treeId }) => treeId),
    );
  }

  private arrange(heat: HeatView, trees: readonly PouredTree[], said: string): void {
    this.send(heat, trees, () => this.page.read(), said);
  }

  private send(heat: HeatView, trees: readonly PouredTree[], done: () => void, said: string): void {
    const body: ChangeHeat = {
      version: heat.version,
      plannedFor: heat.plannedFor,
      trees: trees.map(asGiven),
      chargeLines: heat.chargeLines,
    };
    this.passing((override) => this.sending.send(`/heats/${heat.id}`, body, done, { method: 'put', said, override }));
  }

  /** Sends, and again with a reason where a rule that may be passed refuses it. */
  private passing(send: (override: boolean) => void): void {
    this.again = () => send(true);
    send(false);
  }

  protected again: (() => void) | undefined;

  /** By keyboard: Alt and the arrows move a tree within its heat; Alt and the arrow down takes it out. */
  protected key(event: KeyboardEvent, heat: HeatView, place: number): void {
    const pouring = heat.pourings[place]!;
    if (!event.altKey || !mayArrange(heat) || !this.session.may('change heat')) return;
    const by: Record<string, () => void> = {
      ArrowLeft: () => place > 0 && this.moveTo(this.dragOf(heat, pouring), heat, place - 1),
      ArrowRight: () => place < heat.pourings.length - 1 && this.moveTo(this.dragOf(heat, pouring), heat, place + 1),
      ArrowDown: () => this.moveTo(this.dragOf(heat, pouring), null, 0),
    };
    const act = by[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  }

  /** Puts all that would fill a heat behind what stands in it. */
  protected fillUp(heat: HeatView, fill: readonly HeatFill[]): void {
    const more = fill.map(({ treeId, kg }) => ({ treeId, plannedKg: kg, typed: false }));
    this.arrange(heat, [...heat.pourings.map(treeOf), ...more], 'Heat filled');
  }

  /** Pours in the order that lets the furnace be coolest; what was poured stays first. */
  protected putInOrder(heat: HeatView, treeIds: readonly string[]): void {
    const trees = heat.pourings.map(treeOf);
    this.arrange(
      heat,
      treeIds.flatMap((id) => trees.filter(({ treeId }) => treeId === id)),
      'Order changed',
    );
  }

  protected dragOfComing({ treeId, pourKg, alloyId }: ComingTree): Dragged {
    return { treeId, plannedKg: pourKg ?? 0, typed: false, alloyId, from: null };
  }

  /** Puts a tree at the end of a heat. */
  protected putInto(tree: Dragged, heat: HeatView): void {
    this.moveTo(tree, heat, heat.pourings.length);
  }

  protected alloyName(id: string | null): string {
    return id === null ? '' : alloyOf(id).name;
  }

  /** Makes a heat of what the plan puts together; charge and crew are said in it. */
  protected take(heat: PourAnswer['proposed'][number]): void {
    if (heat.alloyId === null) return;
    const body: PlanHeat = {
      id: newId(),
      alloyId: heat.alloyId,
      plannedFor: heat.startsAt,
      trees: heat.treeIds.map((treeId) => ({ treeId })),
      chargeLines: [],
    };
    this.passing((override) =>
      this.sending.send('/heats', body, () => this.page.read(), { said: 'Heat planned', override }),
    );
  }

  protected heatsFor(tree: { readonly alloyId: string }): HeatView[] {
    return (this.answer()?.heats ?? []).filter((heat) => heat.alloyId === tree.alloyId && mayArrange(heat));
  }

  protected read(): void {
    this.page.read();
  }

  protected ended(): void {
    this.page.read();
  }
}

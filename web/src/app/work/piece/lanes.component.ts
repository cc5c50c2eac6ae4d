import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import type { LaneView, StepView } from '@kalvet/core';
import { ROOM_NAMES, isOpen, kindOf, outcomeOf } from '@kalvet/core';
import { curveBumpX, line } from 'd3';
import { TooltipModule } from 'primeng/tooltip';
import { roomColour } from '../../shared/rooms';
import { ShopService } from '../../shared/shop.service';
import { lanesLayout } from './lanes-layout';
import type { LaneLine } from './lanes-layout';

const LABEL_PX = 92;

/** The piece's sections as lanes of steps in order: filled when done, outlined when planned, ringed when next. */
@Component({
  selector: 'kv-lanes',
  imports: [TooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lanes.component.html',
  styleUrl: './lanes.component.css',
})
export class Lanes {
  protected readonly shop = inject(ShopService);
  readonly lanes = input.required<readonly LaneView[]>();
  readonly pieceSteps = input.required<readonly StepView[]>();
  readonly nextIds = input.required<ReadonlySet<string>>();
  readonly chosen = output<StepView>();

  protected readonly label = LABEL_PX;
  protected readonly colour = roomColour;
  protected readonly roomName = ROOM_NAMES;
  protected readonly width = signal(680);
  protected readonly layout = computed(() =>
    lanesLayout(this.lanes(), this.pieceSteps(), this.nextIds(), Math.max(420, this.width() - LABEL_PX - 8)),
  );
  /** From the end of each section that is joined or to be joined to the piece's first metal step. */
  protected readonly seams = computed(() => {
    const { lines } = this.layout();
    const piece = lines.find(({ key }) => key === 'piece');
    const join = piece?.marks.find(({ step }) => step.room === 'chasing');
    if (!piece || !join) return [];
    const draw = line().curve(curveBumpX);
    return lines
      .filter((each) => each !== piece && each.cross === null && each.marks.length > 0)
      .map(
        (each) =>
          draw([
            [each.to + 8, each.y],
            [join.x - 9, piece.y],
          ]) ?? '',
      );
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const watch = new ResizeObserver(() => this.width.set(host.clientWidth));
    watch.observe(host);
    inject(DestroyRef).onDestroy(() => watch.disconnect());
  }

  /** Everything there is to say of a step. */
  protected words(step: StepView): string {
    const parts = [`${step.name} · ${step.on}`];
    if (isOpen(step)) {
      if (step.state === 'running') parts.push(`begun ${this.shop.when(step.startedAt)}`);
      else if (step.waits.length > 0) parts.push(`waits for ${step.waits.join(', ')}`);
      else
        parts.push(
          step.readyAt && step.readyAt > this.shop.now()
            ? `can be done from ${this.shop.when(step.readyAt)}`
            : 'can be done',
        );
      if (step.plannedStart) parts.push(`planned ${this.shop.planned(step.plannedStart)}`);
      if (step.pinKind) parts.push(`pinned ${step.pinKind} ${this.shop.at(step.pinAt)}`);
      return parts.join('; ');
    }
    const outcome = outcomeOf(kindOf(step.kind), step.outcome ?? '')?.label ?? step.outcome ?? step.state;
    parts.push(`${outcome.toLowerCase()} ${this.shop.at(step.endedAt)}`);
    if (step.by.length > 0) parts.push(`by ${step.by.join(', ')}`);
    for (const { label, value, taken } of step.told)
      parts.push(`${label.toLowerCase()} ${this.shop.words(value)}${taken ? ' (taken over)' : ''}`);
    if (step.note) parts.push(step.note);
    return [...parts, ...step.flags].join('; ');
  }

  protected done(step: StepView): boolean {
    return !isOpen(step);
  }

  protected name(each: LaneLine): string {
    return each.name.length > 13 ? `${each.name.slice(0, 12)}…` : each.name;
  }
}

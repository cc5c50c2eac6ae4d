import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  input,
  signal,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import type { DraftOutcome, DraftPiece } from '@kalvet/core';
import { addDays } from '@kalvet/core';
import { LikelyText } from '../../shared/likely.component';
import { ShopService } from '../../shared/shop.service';
import { axisOf } from '../plan/plan-drawing';
import type { Fate } from './moved-drawing';
import { FATE_NAMES, fateOf, mondays, movedPicture } from './moved-drawing';

const ROW_PX = 26;
const LABEL_PX = 210;
/** As wide as `Mon 22 Nov 2027` with a gap. */
const TICK_PX = 106;
const DAY_MS = 86_400_000;
/** So many rows are drawn; the list has all. */
const MOST_DRAWN = 40;
const FATES: readonly Fate[] = ['new', 'late', 'saved', 'later', 'sooner', 'same'];

/** What a draft does to the dates: in a sentence, as a picture, then piece by piece. */
@Component({
  selector: 'kv-draft-outcome',
  imports: [LikelyText, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './draft-outcome.component.html',
  styleUrl: './draft-outcome.component.css',
})
export class DraftOutcomeView {
  protected readonly shop = inject(ShopService);
  readonly outcome = input.required<DraftOutcome>();

  protected readonly label = LABEL_PX;
  protected readonly row = ROW_PX;
  private readonly width = signal(760);
  protected readonly fates = FATE_NAMES;
  protected readonly drawn = computed(() => this.outcome().pieces.slice(0, MOST_DRAWN));
  protected readonly chart = computed(() => Math.max(240, this.width() - LABEL_PX - 14));
  private readonly axis = computed(() => axisOf(this.shop.zone()));
  private readonly dayOf = computed(() => (instant: string) => this.axis()(instant) / DAY_MS);
  protected readonly today = computed(() => this.dayOf()(this.shop.now()));
  protected readonly picture = computed(() =>
    movedPicture(this.drawn(), this.dayOf(), { width: this.chart(), rowPx: ROW_PX, today: this.today() }),
  );
  protected readonly ticks = computed(() =>
    mondays(this.picture().x, TICK_PX).map(([x, day]) => ({ x, text: this.shop.day(addDays('1970-01-01', day)) })),
  );
  /** How many fare how, as a sentence. */
  protected readonly counts = computed(() => {
    const all = this.outcome().pieces.map(fateOf);
    return FATES.map((fate) => ({ fate, count: all.filter((each) => each === fate).length })).filter(
      ({ count }) => count > 0,
    );
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const watch = new ResizeObserver(() => this.width.set(host.clientWidth));
    afterNextRender(() => watch.observe(host));
    inject(DestroyRef).onDestroy(() => watch.disconnect());
  }

  protected fate(piece: DraftPiece): Fate {
    return fateOf(piece);
  }

  protected out(instant: string | null): string {
    return instant ? this.shop.dayOf(instant) : 'not planned';
  }

  protected late(days: number): string {
    return days === 0 ? '' : `${days} ${days === 1 ? 'day' : 'days'} late`;
  }
}

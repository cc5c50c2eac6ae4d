import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { HeatView, PourDayAnswer, SetInPit } from '@kalvet/core';
import { CREW_ROLE_NAMES, POUR_CHECKS, POUR_CHECK_NAMES, alloyOf } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Cautions } from '../../shared/cautions.component';
import { May } from '../../shared/may.directive';
import { pageData } from '../../shared/page-data';
import { Refusal } from '../../shared/refusal.component';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { AmountPipe, WordsPipe } from '../../shared/words.pipe';
import { mouldWords, secondsInWords } from '../pour-words';
import { DayAxis } from './day-axis.component';
import { Pit } from './pit.component';

/** A pour day on one page: hour by hour, the pit, each tree's targets, crew, checks, and what to do when it goes wrong. */
@Component({
  selector: 'kv-day-of-pour',
  imports: [AmountPipe, ButtonModule, Cautions, DayAxis, May, Pit, Refusal, RouterLink, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './day-of-pour.page.html',
  styleUrl: './day-of-pour.page.css',
})
export class DayOfPourPage {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly day = input<string>();
  private readonly page = pageData<PourDayAnswer>(() => `/pour/day${this.day() ? `?day=${this.day()}` : ''}`);
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly checks = POUR_CHECKS.map((code) => POUR_CHECK_NAMES[code]);
  protected readonly card = computed(() => this.shop.settings().pourCard);
  protected readonly travels = computed(() => {
    const { carriers, pourCard } = this.shop.settings();
    return carriers > 0
      ? `carried by ${carriers}`
      : { hoist: 'by hoist', trolley: 'by trolley', tilted: 'tilted at the furnace' }[pourCard.travels];
  });

  /** Who pours each heat, in a line. */
  protected readonly crews = computed(() =>
    Object.fromEntries((this.answer()?.heats ?? []).map((heat) => [heat.id, this.crewOf(heat)])),
  );
  protected readonly trees = computed(() =>
    (this.answer()?.heats ?? []).map((heat) => ({
      heat,
      alloy: alloyOf(heat.alloyId).name,
      leaded: alloyOf(heat.alloyId).leaded,
      rows: heat.pourings.map(({ treeId, order, label, plannedKg, place, outcome }) => {
        const window = heat.windows[treeId]!;
        const out = heat.kilnOut[treeId];
        return {
          treeId,
          order,
          label,
          plannedKg,
          outcome,
          place: place ?? this.answer()!.wouldSet[treeId] ?? null,
          isSet: place !== null,
          cup: this.shop.amount(window.cup.value, '°C', 0),
          mould: mouldWords(window, this.shop),
          out: out ? `${secondsInWords(out.fromS)} to ${secondsInWords(out.toS)}` : 'bedded',
          filling: heat.fillings[treeId]!,
          pace: window.pace,
        };
      }),
    })),
  );
  /** Trees that would be set in the free places nearest to the furnace. */
  protected readonly toSet = computed(() => Object.keys(this.answer()?.wouldSet ?? {}).length);

  private crewOf({ crew, signs, coverConfirmedById }: HeatView): string {
    if (crew === null) return 'crew not named yet';
    const names = crew.map(({ role, personId }) => `${this.shop.personName(personId)} ${CREW_ROLE_NAMES[role]}`);
    return `${names.join(', ')}${signs ? `; signs ${signs}` : ''}${coverConfirmedById === null ? '; not confirmed' : ''}`;
  }

  /** Sets all trees that have no place yet, heat by heat. */
  protected setAll(): void {
    const answer = this.answer();
    if (!answer) return;
    const heats = answer.heats
      .map(({ id, pourings }) => ({
        heatId: id,
        places: pourings.flatMap(({ treeId }) => {
          const place = answer.wouldSet[treeId];
          return place === undefined ? [] : [{ treeId, place }];
        }),
      }))
      .filter(({ places }) => places.length > 0);
    const next = () => {
      const one = heats.shift();
      if (one) this.set(one, next);
      else this.page.read();
    };
    next();
  }

  protected set(
    { heatId, places }: { readonly heatId: string; readonly places: SetInPit['places'] },
    then = () => this.page.read(),
  ): void {
    this.sending.send(`/heats/${heatId}/pit`, { places }, then, { said: 'Set in the pit' });
  }

  protected readonly alloyName = (id: string | null) => (id === null ? '' : alloyOf(id).name);

  protected print(): void {
    window.print();
  }

  protected read(): void {
    this.page.read();
  }
}

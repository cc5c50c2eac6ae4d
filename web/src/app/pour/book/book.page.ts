import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { HeatBook, SaveSettings, TaughtFigure } from '@kalvet/core';
import { alloyOf, heatSums, numbersOf } from '@kalvet/core';
import { May } from '../../shared/may.directive';
import { pageData } from '../../shared/page-data';
import { Refusal } from '../../shared/refusal.component';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { AmountPipe } from '../../shared/words.pipe';
import { MEASURES } from './measures';
import type { Measure } from './measures';
import { YearChart } from './year-chart.component';

const TAUGHT: Readonly<
  Record<
    TaughtFigure['key'],
    { readonly label: string; readonly unit: string; readonly decimals: number; readonly times: number }
  >
> = {
  crucibleLossK: { label: 'The crucible loses a minute at 1150 °C', unit: 'K', decimals: 1, times: 1 },
  transferK: { label: 'Lost when poured over', unit: 'K', decimals: 0, times: 1 },
  furnaceEfficiency: { label: 'Of the furnace’s power into the metal', unit: '%', decimals: 1, times: 100 },
  liningMinutes: { label: 'Lining, cold', unit: 'min', decimals: 0, times: 1 },
};

/** The heats of a year: what they lost, gave and took, and what they teach of the furnace. */
@Component({
  selector: 'kv-book',
  imports: [AmountPipe, May, Refusal, RouterLink, YearChart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './book.page.html',
  styleUrls: ['../../shared/list.page.css', './book.page.css'],
})
export class BookPage {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  protected readonly year = signal<number | null>(null);
  private readonly page = pageData<HeatBook>(() => `/heats/book${this.year() === null ? '' : `?year=${this.year()}`}`);
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly measures = MEASURES;
  protected readonly measure = signal<Measure>(MEASURES[0]);

  protected readonly sums = computed(() => heatSums(this.answer()?.heats ?? []));
  protected readonly rows = computed(() =>
    (this.answer()?.heats ?? []).map((heat) => ({ heat, alloy: alloyOf(heat.alloyId).name, sums: heatSums([heat]) })),
  );
  protected readonly taught = computed(() =>
    (this.answer()?.taught ?? []).map((figure) => {
      const { label, unit, decimals, times } = TAUGHT[figure.key];
      const say = (value: number) => `${(value * times).toFixed(decimals)} ${unit}`;
      const rounded = Number((figure.learned * times).toFixed(decimals)) / times;
      return {
        ...figure,
        label,
        nowSaid: say(figure.now),
        learnedSaid: say(figure.learned),
        spreadSaid: say(figure.spread),
        rounded,
        isSame: Math.abs(rounded - figure.now) < 1e-9,
      };
    }),
  );

  protected said(measure: Measure, value: number | null): string {
    if (value === null) return '–';
    return measure.unit === '%' ? `${(value * 100).toFixed(1)} %` : `${value.toFixed(2)} ${measure.unit}`;
  }

  protected show(year: number): void {
    this.year.set(year);
    this.page.read();
  }

  /** Counts with what the heats taught from now on: a person decides, the settings keep it. */
  protected take(key: TaughtFigure['key'], value: number): void {
    const { settings, settingsVersion } = {
      settings: this.shop.settings(),
      settingsVersion: this.answer()!.settingsVersion,
    };
    const numbers = { ...numbersOf(settings), [key]: value, typed: settings.typed };
    const body: SaveSettings = { version: settingsVersion, numbers };
    this.sending.send('/settings', body, () => this.page.read(), { method: 'put', said: 'Taken over from the heats' });
  }
}

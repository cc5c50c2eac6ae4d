import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { LearnedGroup, LearnedLine, QualityAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { May } from '../shared/may.directive';
import { pageData } from '../shared/page-data';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { WordsPipe } from '../shared/words.pipe';
import { CaseStrip } from './case-strip.component';

/** The scale of yields begins here: below it no foundry goes on. */
const LEAST_SHARE = 0.5;

/** What the shop's own records say of its figures; what a person takes over is reckoned with from then on. */
@Component({
  selector: 'kv-quality',
  imports: [ButtonModule, CaseStrip, May, Refusal, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './quality.page.html',
  styleUrls: ['../shared/list.page.css', './quality.page.css'],
})
export class QualityPage {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  private readonly page = pageData<QualityAnswer>(() => '/quality');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  /** The line whose taking over is under way or was refused. */
  protected readonly asked = signal('');

  private of = (...groups: LearnedGroup[]) =>
    (this.answer()?.lines ?? []).filter(({ group }) => groups.includes(group));
  protected readonly figures = computed(() => this.of('cast factor', 'coat'));
  protected readonly offers = computed(() => this.figures().filter(({ offered }) => offered !== null).length);
  protected readonly hours = computed(() => this.of('hours'));
  protected readonly moulds = computed(() => this.of('mould life'));
  protected readonly yields = computed(() =>
    this.of('yield').map((line) => {
      const [low, high] = line.range!.map((each) => this.across(each)) as [number, number];
      return { line, low, width: high - low, middle: this.across(line.learned!.value) };
    }),
  );
  /** What comes through every room at the first go. */
  protected readonly overall = computed(() =>
    this.of('yield').reduce((share, { learned }) => share * learned!.value, 1),
  );
  protected readonly ticks = [0.5, 0.6, 0.7, 0.8, 0.9, 1].map((share) => ({
    left: this.across(share),
    label: `${Math.round(share * 100)} %`,
  }));

  protected percent = (share: number, decimals = 0) => `${(share * 100).toFixed(decimals)} %`;

  protected valueOf({ group }: LearnedLine, value: number | null): string {
    if (value === null) return '–';
    return group === 'coat' ? this.shop.amount(value, 'mm', 2) : value.toFixed(group === 'mould life' ? 0 : 2);
  }

  protected take({ id, learned }: LearnedLine, back: boolean): void {
    this.asked.set(id);
    const body = { version: this.answer()!.settingsVersion, line: id, back, n: learned?.n ?? 0 };
    this.sending.send('/quality/take', body, () => this.page.read(), {
      said: back ? 'Back to what is usual' : 'Taken over',
    });
  }

  protected again(): void {
    this.sending.reset();
    this.page.read();
  }

  private across(share: number): number {
    return (100 * Math.max(0, share - LEAST_SHARE)) / (1 - LEAST_SHARE);
  }
}

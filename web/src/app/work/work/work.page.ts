import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { WorkAnswer } from '@kalvet/core';
import { METHOD_NAMES, alloyOf } from '@kalvet/core';
import { max, scaleLinear } from 'd3';
import { ButtonModule } from 'primeng/button';
import { Files } from '../../files/files.component';
import { FigureText } from '../../shared/figure.component';
import { pageData } from '../../shared/page-data';
import { PlanStandText } from '../../shared/plan-stand.component';
import { ShopService } from '../../shared/shop.service';
import { spanShort } from '../../shared/hours';
import { History } from '../piece/history.component';
import { AmountPipe } from '../../shared/words.pipe';
import { WorkGlyph } from '../work-glyph.component';
import { MouldForm } from './mould-form.component';
import { SectionForm } from './section-form.component';
import { WorkForm } from './work-form.component';
import { NextSteps } from '../next-steps.component';
import { Refusal } from '../../shared/refusal.component';
import { Submission } from '../../shared/submission';
import { May } from '../../shared/may.directive';

type SectionView = WorkAnswer['sections'][number];
type MouldView = WorkAnswer['moulds'][number];

const SCALE_PX = 190;

/** A work: sections with weights and walls, moulds and their pulls, the edition with its dates, route, history. */
@Component({
  selector: 'kv-work',
  imports: [
    May,
    AmountPipe,
    RouterLink,
    ButtonModule,
    Files,
    FigureText,
    History,
    MouldForm,
    NextSteps,
    PlanStandText,
    Refusal,
    SectionForm,
    WorkForm,
    WorkGlyph,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './work.page.html',
  styleUrl: './work.page.css',
})
export class WorkPage {
  protected readonly shop = inject(ShopService);
  private readonly router = inject(Router);
  readonly id = input.required<string>();
  private readonly page = pageData<WorkAnswer>(() => `/works/${this.id()}`);
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly methods = METHOD_NAMES;
  protected readonly alloy = computed(() => alloyOf(this.answer()?.work.alloyId ?? 'C87300').name);
  protected readonly span = spanShort;
  protected readonly scalePx = SCALE_PX;

  /** What is being changed: the work, a section or a mould, or a further mould. */
  protected readonly changing = signal<'work' | 'mould' | 'remove' | SectionView | MouldView | null>(null);
  protected readonly section = computed(() => {
    const what = this.changing();
    return what !== null && typeof what === 'object' && 'wallMm' in what ? what : undefined;
  });
  protected readonly mould = computed(() => {
    const what = this.changing();
    return what !== null && typeof what === 'object' && 'lifePulls' in what ? what : undefined;
  });

  protected readonly sections = computed(() =>
    (this.answer()?.sections ?? []).map((section) => {
      const plan = section.plannedWax?.value ?? null;
      const most = max([plan ?? 0, ...section.waxes.map(({ kg }) => kg)]) ?? 1;
      const x = scaleLinear([0, Math.max(0.01, most) * 1.15], [0, SCALE_PX]);
      const band = this.answer()!.waxBand;
      return {
        section,
        plan: plan === null ? null : { width: x(plan), from: x(plan * (1 - band)), to: x(plan * (1 + band)) },
        dots: section.waxes.map((wax) => ({
          x: x(wax.kg),
          off: plan !== null && Math.abs(wax.kg / plan - 1) > band,
          words: `${wax.label}: ${this.shop.amount(wax.kg, 'kg', 3)}, ${this.shop.dayOf(wax.at)}`,
        })),
      };
    }),
  );
  protected readonly counts = computed(() => {
    const pieces = this.answer()?.pieces ?? [];
    const count = (...states: string[]) => pieces.filter(({ state }) => states.includes(state)).length;
    return {
      delivered: count('delivered'),
      work: count('in work', 'hold'),
      coming: count('not begun'),
      late: pieces.filter(({ lateDays }) => lateDays > 0).length,
    };
  });
  protected readonly handsOn = computed(() =>
    (this.answer()?.route ?? []).reduce((sum, { minutes, byHand }) => sum + (byHand ? minutes : 0), 0),
  );

  protected lifeShare(mould: MouldView): number {
    return mould.lifePulls ? Math.min(100, (mould.used / mould.lifePulls) * 100) : 0;
  }

  protected readonly sending = new Submission();

  /** The first step is recorded at its piece. */
  protected goTo(stepId: string): void {
    void this.router.navigate(['/pieces', this.answer()!.pieces[0]!.id], { queryParams: { step: stepId } });
  }

  protected takeAway(): void {
    const { id, title, version } = this.answer()!.work;
    this.sending.send(`/works/${id}/remove`, { version }, () => void this.router.navigate(['/floor']), {
      said: `${title} is taken away`,
    });
  }

  protected saved(): void {
    this.changing.set(null);
    this.page.read();
  }

  protected read(): void {
    this.page.read();
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { DraftChange, SaveDraft, WhyAnswer } from '@kalvet/core';
import { spanInWords } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { newId } from '../../shared/ids';
import { May } from '../../shared/may.directive';
import { Refusal } from '../../shared/refusal.component';
import { roomColour } from '../../shared/rooms';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { askedDates } from '../ask-dates';
import { HOLD_NAMES, waitsOf, whyRows } from './why-rows';

/** Why a piece is out when it is: the chain that holds it, drawn along its time, and what the shop could do about it. */
@Component({
  selector: 'kv-why',
  imports: [ButtonModule, May, Refusal, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './why.page.html',
  styleUrl: './why.page.css',
})
export class WhyPage {
  protected readonly shop = inject(ShopService);
  private readonly router = inject(Router);
  /** The piece. */
  readonly id = input.required<string>();

  private readonly asked = askedDates<WhyAnswer>(
    () => `/plan/pieces/${this.id()}/why`,
    'Going through its plan, and trying what would help …',
  );
  protected readonly answer = this.asked.answer;
  protected readonly wrong = this.asked.wrong;
  protected readonly waiting = this.asked.waiting;
  protected readonly rows = computed(() => whyRows(this.answer() ?? { links: [] }));
  protected readonly waits = computed(() => waitsOf(this.answer()?.links ?? []));
  protected readonly trying = new Submission();
  protected readonly colour = roomColour;
  protected readonly holdName = HOLD_NAMES;
  protected readonly span = spanInWords;

  /** Whole days where there are some: nobody asks for a day less three hours. */
  protected gain(minutes: number): string {
    const days = Math.round(minutes / 1440);
    return days === 0 ? 'half a day' : days === 1 ? 'a day' : `${days} days`;
  }

  protected again(): void {
    this.asked.again();
  }

  /** Keeps a relief as a draft, and goes there. */
  protected tryIt(change: DraftChange, words: string): void {
    const body: SaveDraft = {
      id: newId(),
      version: 0,
      name: `${this.answer()?.label ?? ''} sooner: ${words}`.slice(0, 120),
      changes: [change],
    };
    this.trying.send('/drafts', body, () => void this.router.navigate(['/drafts', body.id]));
  }
}

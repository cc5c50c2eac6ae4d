import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { FloorAnswer, FloorPiece, FloorWork } from '@kalvet/core';
import { PRIORITY_WORDS, ROOM_NAMES, markOf, questionOf } from '@kalvet/core';
import { Disc } from '../../shared/disc.component';
import { FigureText } from '../../shared/figure.component';
import { LikelyText } from '../../shared/likely.component';
import { Leaving } from '../../shared/leaving.component';
import { Opened } from '../../shared/opened.directive';
import { spread } from '../../shared/piece-words';
import { Question } from '../../shared/question.component';
import { ShopService } from '../../shared/shop.service';
import { StepPanel } from '../../route/step-panel.component';
import { NextSteps } from '../next-steps.component';
import { PieceActions } from '../piece/piece-actions.component';

/** A piece at a glance: what it waits for and since when, what can be done next, dates, weight, and the panel to record it. */
@Component({
  selector: 'kv-piece-card',
  imports: [RouterLink, Disc, FigureText, Leaving, LikelyText, NextSteps, PieceActions, Question, StepPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [Opened],
  templateUrl: './piece-card.component.html',
  styleUrl: './piece-card.component.css',
})
export class PieceCard {
  protected readonly shop = inject(ShopService);
  readonly work = input.required<FloorWork>();
  readonly piece = input.required<FloorPiece>();
  readonly order = input<FloorAnswer['orders'][number]>();
  readonly closed = output();

  protected readonly questions = computed(() => this.piece().decisions.map((each) => questionOf(each, null)));
  protected readonly mark = computed(() => markOf(this.piece()));
  protected readonly roomName = ROOM_NAMES;
  protected readonly turns = PRIORITY_WORDS;
  protected readonly where = computed(() =>
    this.piece().sections.length > 1 ? spread(this.piece().sections) : ROOM_NAMES[this.piece().behind],
  );
  /** The step whose panel is open; closed again when another piece is looked at. */
  protected readonly stepId = linkedSignal<string, string | undefined>({
    source: () => this.piece().id,
    computation: () => undefined,
  });

  /** Recorded a moment ago, and still in the list that was read before: whoever presses Enter again must not open it. */
  private readonly past = linkedSignal<FloorPiece, string | undefined>({
    source: this.piece,
    computation: () => undefined,
  });
  protected readonly next = computed(() => this.piece().next.filter(({ stepId }) => stepId !== this.past()));

  protected recorded(): void {
    this.past.set(this.stepId());
    this.stepId.set(undefined);
  }

  constructor() {
    inject(Opened).left.subscribe(() => this.closed.emit());
  }
}

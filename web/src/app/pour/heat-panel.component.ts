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
import type { HeatAnswer, StepForm } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Api, asApiError } from '../shared/api.service';
import { AmountPipe, WordsPipe } from '../shared/words.pipe';
import { ShopService } from '../shared/shop.service';
import { HeatCrew } from './heat-crew.component';
import { HeatEnd } from './heat-end.component';
import { HeatPlan } from './heat-plan.component';
import { HeatPour } from './heat-pour.component';

/**
 * A heat, from its plan to its pig: which trees in which order and what is charged; crew and cover; each tree as it was
 * poured; what was left. Shown is what comes next.
 */
@Component({
  selector: 'kv-heat-panel',
  imports: [AmountPipe, WordsPipe, FormsModule, ButtonModule, HeatPlan, HeatCrew, HeatPour, HeatEnd],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>{{ heat() ? 'Heat H-' + heat()!.number : form().step.name }}</h2>
    <p class="kv-soft">{{ form().step.on }}</p>
    @if (form().step.waits.length > 0) {
      <p class="standing">{{ shop.waits(form().step.waits) }}</p>
    }
    @if (wrong()) {
      <p class="kv-alert" role="alert">{{ wrong() }}</p>
    }
    @if (planning() || !heat()) {
      <kv-heat-plan
        [form]="form()"
        [heat]="heat()"
        (planned)="read($event); planning.set(false)"
        (cancelled)="heat() ? planning.set(false) : cancelled.emit()" />
    } @else if (heat(); as heat) {
      <ol class="stages">
        @for (pouring of heat.pourings; track pouring.id) {
          <li>
            <span>{{ pouring.order }}. {{ pouring.label }}</span>
            <span class="kv-soft">{{ pouring.outcome ?? (pouring.plannedKg | amount: 'kg' : 1) }}</span>
          </li>
        }
      </ol>
      <p class="kv-soft" [title]="heat.charge.inWords | words">
        Charge {{ heat.charge.value | amount: 'kg' : 1 }}; {{ heat.freeKg | amount: 'kg' : 1 }} of the crucible free
      </p>
      @for (warning of heat.warnings; track warning) {
        <p class="kv-soft">{{ warning | words }}</p>
      }
      @if (untouched()) {
        <button type="button" class="kv-link change" (click)="planning.set(true)">Change trees, order or charge</button>
      }
      @if (heat.coverConfirmedById === null) {
        <kv-heat-crew [heat]="heat" (done)="read(heat.id)" />
      }
      @if (next(); as pouring) {
        <kv-heat-pour
          [form]="form()"
          [heat]="heat"
          [treeId]="pouring.treeId"
          [label]="pouring.label"
          [plannedKg]="pouring.plannedKg"
          (done)="poured(heat)" />
      } @else {
        <kv-heat-end [heat]="heat" (done)="done.emit()" />
      }
      <div class="actions">
        <button pButton type="button" severity="secondary" [text]="true" (click)="cancelled.emit()">Close</button>
      </div>
    }
  `,
  styleUrl: '../route/panel.css',
  styles: `
    .stages {
      margin: 8px 0;
      display: grid;
      gap: 2px;
    }
    .stages li {
      display: flex;
      justify-content: space-between;
      gap: 10px;
      border-bottom: 1px solid var(--kv-line);
      padding: 3px 0;
    }
    .change {
      margin: 6px 0;
    }
  `,
})
export class HeatPanel {
  private readonly api = inject(Api);
  protected readonly shop = inject(ShopService);
  readonly form = input.required<StepForm>();
  readonly done = output();
  readonly cancelled = output();
  readonly reload = output();
  protected readonly heat = signal<HeatAnswer | undefined>(undefined);
  protected readonly planning = signal(false);
  protected readonly wrong = signal('');

  /** This tree first, then the others in pouring order. */
  protected readonly next = computed(() => {
    const open = (this.heat()?.pourings ?? []).filter(({ outcome }) => outcome === null);
    return open.find(({ treeId }) => treeId === this.form().step.carrierId) ?? open[0];
  });
  protected readonly untouched = computed(() => (this.heat()?.pourings ?? []).every(({ outcome }) => outcome === null));

  constructor() {
    effect(() => {
      const { heats, step } = this.form();
      untracked(() =>
        this.heat.set(
          heats.find(({ pourings }) =>
            pourings.some(({ treeId, outcome }) => treeId === step.carrierId && outcome === null),
          ),
        ),
      );
    });
  }

  protected read(id: string): void {
    this.api.get<HeatAnswer>(`/heats/${id}`).subscribe({
      next: (heat) => this.heat.set(heat),
      error: (failure: unknown) => this.wrong.set(asApiError(failure).message),
    });
  }

  protected poured(heat: HeatAnswer): void {
    this.read(heat.id);
  }
}

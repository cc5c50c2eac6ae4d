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
import type { LoadRecord, PlanLoad, StepForm } from '@kalvet/core';
import { kindOf } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Cautions } from '../shared/cautions.component';
import { newId } from '../shared/ids';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { startReadings } from '../route/draft';
import { RecordDraft } from '../route/record-draft';
import { Readings } from '../route/readings.component';
import { WhoWhen } from '../route/who-when.component';

interface Row {
  readonly treeId: string;
  readonly label: string;
  readonly note: string;
  readonly own: boolean;
}

/** Records a kiln load: which trees were in it, how it was fired, and what did not come through. */
@Component({
  selector: 'kv-load-panel',
  imports: [FormsModule, ButtonModule, InputTextModule, Cautions, Readings, Refusal, WhoWhen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './load-panel.component.html',
  styleUrl: '../route/panel.css',
})
export class LoadPanel {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  protected readonly given = new RecordDraft();
  readonly form = input.required<StepForm>();
  readonly done = output();
  readonly cancelled = output();
  readonly reload = output();

  protected readonly chosen = signal<Record<string, boolean>>({});
  protected readonly lost = signal<Record<string, string | undefined>>({});

  protected readonly step = computed(() => this.form().step);
  protected readonly readings = computed(() => kindOf(this.step().kind).readings);
  protected readonly rows = computed<Row[]>(() =>
    this.form().companions.map(({ treeId, label, ready, why }) => ({
      treeId,
      label,
      note: ready ? '' : why,
      own: treeId === this.step().carrierId,
    })),
  );
  protected readonly count = computed(() => this.rows().filter(({ treeId }) => this.chosen()[treeId]).length);
  private id = newId();

  constructor() {
    effect(() => {
      const form = this.form();
      untracked(() => {
        if (this.given.outcome() !== '') return this.sending.reset();
        this.given.begin(form.step.kind, startReadings(form));
        this.chosen.set({ [form.step.carrierId]: true });
        const { chosen, lost } = this;
        this.sending.keep(`load ${form.step.id}`, { ...this.given.fields, chosen, lost });
      });
    });
  }

  protected choose(treeId: string, on: boolean): void {
    this.chosen.update((chosen) => ({ ...chosen, [treeId]: on }));
  }

  protected lose(treeId: string, why: string | undefined): void {
    this.lost.update((lost) => ({ ...lost, [treeId]: why }));
  }

  /** A load's own fields are those of its readings. */
  protected readonly wrong = computed(() =>
    Object.fromEntries(
      Object.entries(this.sending.fields()).map(([field, text]) => [field.replace(/^record\./, 'readings.'), text]),
    ),
  );

  protected record(override = false): void {
    const treeIds = this.rows()
      .filter(({ treeId }) => this.chosen()[treeId])
      .map(({ treeId }) => treeId);
    const { startedAt, endedAt, by, readings, typed, taken } = this.given.said(this.step().kind);
    const lost = treeIds.flatMap((treeId) =>
      this.lost()[treeId] === undefined ? [] : [{ treeId, why: this.lost()[treeId]! }],
    );
    const record: LoadRecord = {
      startedAt,
      endedAt,
      by,
      profile: String(readings['profile'] ?? ''),
      // What was left empty is refused by the server, by name.
      topC: (readings['topC'] ?? null) as number,
      typed,
      ...(taken ? { taken } : {}),
      note: '',
      lost,
    };
    const load: PlanLoad = { id: this.id, treeIds, record };
    this.sending.send(
      '/loads',
      load,
      () => {
        this.id = newId();
        this.done.emit();
      },
      { override, said: `Load of ${treeIds.length} recorded` },
    );
  }
}

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
import type { DayLine, RecordMany as Tray, TrayForm, TrayLine } from '@kalvet/core';
import { kindOf, outcomeOf } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { readingsAsked, startReadings } from './draft';
import { RecordDraft } from './record-draft';
import { ReadingField } from './reading-field.component';
import { Readings } from './readings.component';
import type { TrayGroup } from './tray';
import { notOnTray, ownInWords, trayGroups } from './tray';
import type { EachRead } from './tray-table.component';
import { TrayTable } from './tray-table.component';
import { WhoWhen } from './who-when.component';
import { Choices } from '../shared/choices.component';
import { Api, asApiError } from '../shared/api.service';
import { Cautions } from '../shared/cautions.component';
import { Leaving } from '../shared/leaving.component';
import { Opened } from '../shared/opened.directive';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** Records several steps of one kind at once, all of them or none: each with what its own plan says and what is read of it. */
@Component({
  selector: 'kv-record-many',
  imports: [Leaving, FormsModule, ButtonModule, Choices, Cautions, ReadingField, Readings, Refusal, TrayTable, WhoWhen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [Opened],
  templateUrl: './record-many.component.html',
  styleUrl: './panel.css',
  styles: `
    .group {
      padding: 5px 0;
      border-bottom: 1px solid var(--kv-line);
    }
    .group:last-child {
      border-bottom: 0;
    }
    .groups {
      margin: 4px 0 10px;
    }
  `,
})
export class RecordMany {
  private readonly api = inject(Api);
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  protected readonly given = new RecordDraft();
  readonly lines = input.required<readonly Pick<DayLine, 'stepId' | 'version' | 'kind' | 'name' | 'on'>[]>();
  readonly done = output();
  readonly cancelled = output();

  protected readonly tray = signal<TrayForm | undefined>(undefined);
  protected readonly wrong = signal('');
  /** What is read of each, by its step. */
  protected readonly each = signal<EachRead>({});
  /** Where a group is done otherwise than its plan says. */
  protected readonly otherwise = signal<Readonly<Record<string, Readonly<Record<string, unknown>> | undefined>>>({});

  protected readonly kind = computed(() => kindOf(this.lines()[0]!.kind));
  protected readonly outcomes = computed(() => this.kind().outcomes.map(({ code, label }) => ({ code, label })));
  private readonly all = computed(() => readingsAsked(this.lines()[0]!.kind, this.given.outcome(), 2));
  protected readonly groups = computed(() => trayGroups(this.tray()?.lines ?? []));
  /** Readings that a plan of their own says. */
  private readonly planned = computed(() => new Set(this.groups().flatMap(({ own }) => Object.keys(own))));
  protected readonly ofGroups = computed(() => this.all().filter(({ key }) => this.planned().has(key)));
  protected readonly ofEach = computed(() => this.all().filter(({ ofEach }) => ofEach));
  /** What all have in common. */
  protected readonly common = computed(() =>
    this.all().filter(({ key, ofEach }) => !ofEach && !this.planned().has(key)),
  );
  protected readonly alone = computed(() => notOnTray(this.kind().readings));
  protected readonly asksWhy = computed(() => outcomeOf(this.kind(), this.given.outcome())?.why === true);

  constructor() {
    inject(Opened).left.subscribe(() => this.cancelled.emit());
    const ids = computed(() =>
      this.lines()
        .map(({ stepId }) => stepId)
        .join(),
    );
    effect(() => {
      const asked = ids();
      untracked(() => asked && this.read(asked));
    });
  }

  private read(ids: string): void {
    // A tray that loses a line keeps what was said of the others.
    const fresh = this.given.outcome() === '';
    if (fresh) this.given.begin(this.kind().code, {});
    this.api.get<TrayForm>(`/steps/forms?ids=${ids}`).subscribe({
      next: (tray) => {
        this.tray.set(tray);
        if (!fresh) return;
        const common = new Set(this.common().map(({ key }) => key));
        const starts = Object.entries(startReadings(tray.form)).filter(([key]) => common.has(key));
        this.given.readings.set(Object.fromEntries(starts));
        this.each.set(firstEach(tray.lines));
        const { each, otherwise } = this;
        this.sending.keep(`steps ${this.kind().code}`, { ...this.given.fields, each, otherwise });
      },
      error: (failure: unknown) => this.wrong.set(asApiError(failure).message),
    });
  }

  protected ownWords = (group: TrayGroup): string => ownInWords(this.ownOf(group), this.kind().readings);
  protected ownOf = ({ key, own }: TrayGroup) => this.otherwise()[key] ?? own;
  protected names = ({ lines }: TrayGroup): string => lines.map(({ on }) => on).join(', ');

  /** Opens what a group's plan says to be said otherwise; opened again, the plan stands. */
  protected change(group: TrayGroup): void {
    this.otherwise.update(({ [group.key]: before, ...rest }) =>
      before ? rest : { ...rest, [group.key]: { ...group.own } },
    );
  }

  protected putOwn(group: TrayGroup, key: string, value: unknown): void {
    this.otherwise.update((all) => ({ ...all, [group.key]: { ...this.ownOf(group), [key]: value } }));
  }

  protected putEach({ stepId, key, value }: { stepId: string; key: string; value: unknown }): void {
    this.each.update((all) => ({ ...all, [stepId]: { ...all[stepId], [key]: value } }));
  }

  /** What was meant, put in at the one that was asked about: `steps.1.readings.waxKg`, or what all have in common. */
  protected mend({ field, value }: { readonly field: string; readonly value: number }): void {
    const [, place, , key] = field.split('.') as [string, string, string, string];
    const line = this.lines()[Number(place)];
    if (line && this.ofEach().some((def) => def.key === key)) this.putEach({ stepId: line.stepId, key, value });
    else this.given.set(key, value);
  }

  protected send(override = false): void {
    const lines = this.lines();
    const asked = new Set(this.all().map(({ key }) => key));
    const body: Tray = {
      steps: lines.map(({ stepId, version }) => {
        const group = this.groups().find((each) => each.lines.some((line) => line.stepId === stepId));
        const own: Record<string, unknown> = { ...(group ? this.ownOf(group) : {}), ...this.each()[stepId] };
        // A box that nobody ticked says no.
        for (const { key, kind } of this.ofEach()) if (kind === 'yes') own[key] = own[key] === true;
        const said = Object.entries(own).filter(([key, value]) => asked.has(key) && value !== undefined);
        return { id: stepId, version, readings: Object.fromEntries(said) };
      }),
      ...this.given.said(lines[0]!.kind),
    };
    this.sending.send('/records', body, () => this.done.emit(), {
      override,
      said: `${lines.length} × ${this.kind().name} recorded`,
    });
  }
}

/** Where only one mould is good, a wax comes from it. */
const firstEach = (lines: readonly TrayLine[]): EachRead =>
  Object.fromEntries(
    lines.flatMap(({ stepId, moulds }) => {
      const good = moulds.filter((mould) => mould.good);
      return good.length === 1 ? [[stepId, { mouldId: good[0]!.id }]] : [];
    }),
  );

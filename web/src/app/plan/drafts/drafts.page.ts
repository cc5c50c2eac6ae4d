import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { DraftChange, DraftOutcome, DraftView, DraftsAnswer, SaveDraft } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { newId } from '../../shared/ids';
import { May } from '../../shared/may.directive';
import { pageData } from '../../shared/page-data';
import { Refusal } from '../../shared/refusal.component';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { askedDates } from '../ask-dates';
import { ChangeForm } from './change-form.component';
import { DraftOutcomeView } from './draft-outcome.component';
import { TakeDraftForm } from './take-draft.component';

/** Plans that are thought of: what if … A draft beside the plan in use, which knows nothing of it until it is taken over. */
@Component({
  selector: 'kv-drafts',
  imports: [
    ButtonModule,
    ChangeForm,
    DraftOutcomeView,
    FormsModule,
    InputTextModule,
    May,
    Refusal,
    RouterLink,
    TakeDraftForm,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './drafts.page.html',
  styleUrl: './drafts.page.css',
})
export class DraftsPage {
  protected readonly shop = inject(ShopService);
  private readonly router = inject(Router);
  /** The draft that is looked at, by the address; `new` begins one. */
  readonly id = input<string>();
  /** The piece that somebody came from. */
  readonly piece = input<string>();

  private readonly page = pageData<DraftsAnswer>(() => '/drafts');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly draft = computed(() => this.answer()?.drafts.find(({ id }) => id === this.id()));
  /** It was there a moment ago: somebody took it over or dropped it. */
  protected readonly gone = computed(() => {
    const id = this.id();
    return this.answer() !== undefined && id !== undefined && id !== 'new' && !this.draft();
  });
  /** Changes as they stand, so that the same ones are not worked out again for a new name. */
  private readonly changes = computed(() => JSON.stringify(this.draft()?.changes ?? []));
  private readonly asked = askedDates<DraftOutcome>(() => {
    this.changes();
    const draft = untracked(() => this.draft());
    return draft ? `/drafts/${draft.id}/outcome?version=${draft.version}` : '';
  }, 'Planning the shop with it and without …');
  protected readonly outcome = this.asked.answer;
  protected readonly outcomeWrong = this.asked.wrong;
  protected readonly busy = this.asked.busy;
  protected readonly waiting = this.asked.waiting;

  protected readonly saving = new Submission();
  protected readonly dropping = new Submission();
  protected readonly adding = linkedSignal(() => this.id() === 'new');
  protected readonly taking = linkedSignal({ source: () => this.id(), computation: () => false });
  protected readonly name = linkedSignal(() => this.draft()?.name ?? '');
  protected readonly hasLoss = computed(() => this.draft()?.changes.some(({ kind }) => kind === 'lost cast') ?? false);
  protected readonly faults = computed(
    () => new Map((this.outcome()?.faults ?? []).map(({ place, text }) => [place, this.shop.words(text)])),
  );

  constructor() {
    // Dates are of the shop as it was: after a change of the records they are worked out anew.
    let seen = 0;
    effect(() => {
      const change = this.answer()?.change ?? 0;
      untracked(() => {
        if (seen !== 0 && change > seen && this.outcome()) this.asked.again();
        seen = change;
      });
    });
  }

  protected read(): void {
    this.page.read();
    this.asked.again();
  }

  /** A draft begins with its first change, and is called by it until somebody names it. */
  protected add(change: DraftChange): void {
    const draft = this.draft();
    const body: SaveDraft = {
      id: draft?.id ?? newId(),
      version: draft?.version ?? 0,
      name: draft?.name ?? usualName(change),
      changes: [...(draft?.changes ?? []), change],
    };
    this.saving.send('/drafts', body, () => {
      this.adding.set(false);
      this.page.read();
      if (!draft) void this.router.navigate(['/drafts', body.id]);
    });
  }

  protected remove(draft: DraftView, place: number): void {
    this.change(draft, { changes: draft.changes.filter((_, i) => i !== place) });
  }

  protected rename(draft: DraftView): void {
    const name = this.name().trim();
    if (name !== '' && name !== draft.name) this.change(draft, { name });
  }

  private change(draft: DraftView, patch: Partial<Pick<SaveDraft, 'name' | 'changes'>>): void {
    const { id, version, name, changes } = draft;
    this.saving.send('/drafts', { id, version, name, changes, ...patch } satisfies SaveDraft, () => this.page.read());
  }

  protected drop(draft: DraftView): void {
    this.dropping.send(
      `/drafts/${draft.id}/drop`,
      { version: draft.version },
      () => {
        this.page.read();
        void this.router.navigate(['/drafts']);
      },
      { said: `“${draft.name}” dropped` },
    );
  }

  protected taken(): void {
    void this.router.navigate(['/plan']);
  }
}

const NAMES: Readonly<Record<DraftChange['kind'], string>> = {
  'open day': 'A day more',
  'closed day': 'A day without',
  count: 'One more',
  hands: 'Other hands',
  mould: 'Another mould',
  due: 'Another due date',
  priority: 'Another priority',
  hold: 'On hold',
  'lost cast': 'A cast lost',
  enquiry: 'Enquiry',
};

const usualName = (change: DraftChange): string =>
  change.kind === 'enquiry' ? `Enquiry: ${change.work.title}`.slice(0, 120) : NAMES[change.kind];

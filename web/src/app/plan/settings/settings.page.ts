import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Calendar, Day, PlanningAnswer, Resource, PourCard } from '@kalvet/core';
import { ROOM_NAMES, cupVolumeCm3, daySpans, spanInWords, TRAVELS } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputNumberModule } from 'primeng/inputnumber';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { newId } from '../../shared/ids';
import { KeepingTabs } from '../../shared/keeping-tabs.component';
import { pageData } from '../../shared/page-data';
import { Field } from '../../shared/field.component';
import { QuantityInput } from '../../shared/quantity-input.component';
import { Refusal } from '../../shared/refusal.component';
import { roomColour } from '../../shared/rooms';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { CalendarForm } from './calendar-form.component';
import { Drawer } from '../../shared/drawer.component';
import { hoursInWords } from '../../shared/hours';
import { NUMBER_GROUPS } from './numbers';
import { SettingsDraft } from './settings-draft';
import type { CupRow } from './tree-stock';
import { cupOf } from './tree-stock';
import { StaffingForm } from './staffing.component';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** The parts of the page, as the bar at the foot says them. */
const PARTS = {
  numbers: 'numbers',
  crew: 'hands, kiln and crucible',
  times: 'times of the route',
  cups: 'cups',
  bars: 'bars',
  card: 'the pour’s card',
} as const;

/** Hours, hands, kiln, crucible, and the times of the route: what dates are worked out from. Used at once. */
@Component({
  selector: 'kv-settings',
  imports: [
    Drawer,
    KeepingTabs,
    Field,
    FormsModule,
    ButtonModule,
    QuantityInput,
    InputNumberModule,
    InputTextModule,
    SelectModule,
    CalendarForm,
    Refusal,
    StaffingForm,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './settings.page.html',
  styleUrl: './settings.page.css',
})
export class SettingsPage {
  protected readonly shop = inject(ShopService);
  private readonly page = pageData<PlanningAnswer>(() => '/planning');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly roomName = ROOM_NAMES;
  protected readonly colour = roomColour;
  protected readonly groups = NUMBER_GROUPS;
  protected readonly zones = Intl.supportedValuesOf('timeZone');
  protected readonly travels = [...TRAVELS];
  protected readonly cardLines = [
    { key: 'runOut', label: 'Metal runs out' },
    { key: 'wetMould', label: 'A mould is found wet' },
    { key: 'hurt', label: 'Somebody is hurt' },
  ] as const;

  protected setCard(patch: Partial<PourCard>): void {
    this.draft.card.update((card) => ({ ...card, ...patch }));
  }

  protected setCardLine(key: 'runOut' | 'wetMould' | 'hurt', text: string): void {
    this.setCard({ [key]: text.trim() === '' ? '' : text });
  }

  protected readonly sending = new Submission();
  protected readonly draft = new SettingsDraft();
  /** What is wrong, by field: what cannot be read once somebody saves, and what the server refused. */
  private readonly tried = signal(false);
  private readonly wrongs = computed(() => ({
    ...(this.tried() ? this.draft.unread() : {}),
    ...this.sending.fields(),
  }));
  protected readonly dirty = computed(() => this.draft.changed().length > 0);

  constructor() {
    effect(() => {
      const answer = this.answer();
      // What is typed stays while others record; the page is read anew once it is saved or left as it was.
      untracked(() => answer && (!this.draft.base() || !this.dirty()) && this.draft.begin(answer, this.sending));
    });
  }

  /** The hours that are being changed. */
  protected readonly editing = signal<string | null>(null);
  protected readonly fresh = signal<Calendar | null>(null);
  protected readonly calendars = computed(() => {
    const fresh = this.fresh();
    return [...(this.answer()?.calendars ?? []), ...(fresh ? [fresh] : [])].map((calendar) => ({
      calendar,
      users: (this.answer()?.resources ?? [])
        .filter(({ calendarId }) => calendarId === calendar.id)
        .map(({ name }) => name)
        .join(', '),
      week: this.weekInWords(calendar),
      beside: [
        calendar.closed.length > 0 ? `closed ${this.closedIn(calendar.closed)}` : '',
        ...calendar.extra.map(({ date, from, to }) => `also ${this.shop.day(date)} ${from}–${to}`),
      ]
        .filter(Boolean)
        .join(' · '),
    }));
  });

  protected readonly times = computed(() =>
    (this.draft.base()?.kinds ?? []).map((kind) => ({
      ...kind,
      typed: this.draft.times()[kind.kind]!,
      changed: Object.keys(kind.own).length > 0,
    })),
  );
  /** Where hands-on time comes from, if nobody enters it. */
  protected estimateOf({ own, learned, firing }: PlanningAnswer['kinds'][number]): string {
    if (firing !== null)
      return own.minutes === undefined ? `by its profile, ${spanInWords(firing)}` : 'whatever its profile says';
    const taught = learned ? `× ${learned.factor.toFixed(2)} from ${learned.n} logged` : '';
    if (own.minutes !== undefined) return taught ? `for all sizes; by size ${taught}` : 'for all sizes';
    return taught ? `by size, ${taught}` : 'by size of the work';
  }

  protected readonly crew = computed(() =>
    (this.draft.base()?.resources ?? []).map((each) => ({ ...each, ...this.draft.crew()[each.id] })),
  );
  protected readonly volumes = computed(() =>
    this.draft.cups().map((cup) => {
      const { topRadiusMm, bottomRadiusMm, heightMm } = cupOf(cup);
      return topRadiusMm > 0 && bottomRadiusMm > 0 && heightMm > 0
        ? this.shop.amount(cupVolumeCm3({ topRadiusMm, bottomRadiusMm, heightMm }), 'cm3', 0)
        : '';
    }),
  );

  /** Days with the same hours together: `Mon–Fri 08:00–12:00, 12:30–16:30`. */
  private weekInWords({ weekly, always }: Calendar): string {
    if (always) return 'always open';
    const days = DAYS.map((name, i) => ({ name, hours: hoursInWords(weekly.filter(({ day }) => day === i + 1)) }));
    const groups: { from: string; to: string; hours: string }[] = [];
    for (const { name, hours } of days) {
      const last = groups.at(-1);
      if (last && last.hours === hours) last.to = name;
      else groups.push({ from: name, to: name, hours });
    }
    return groups
      .filter(({ hours }) => hours !== '')
      .map(({ from, to, hours }) => `${from === to ? from : `${from}–${to}`} ${hours}`)
      .join(' · ');
  }

  protected read(): void {
    this.page.read();
  }

  protected addCalendar(): void {
    const id = newId();
    this.fresh.set({ id, name: '', always: false, weekly: [], closed: [], extra: [], version: 0 });
    this.editing.set(id);
  }

  protected closeCalendar(): void {
    this.editing.set(null);
    this.fresh.set(null);
    this.page.read();
  }

  /** The hours that stand in the drawer. */
  protected readonly edited = computed(
    () => this.calendars().find(({ calendar }) => calendar.id === this.editing())?.calendar,
  );
  protected readonly timeFields = [
    { key: 'minutes', label: 'hands-on' },
    { key: 'minWait', label: 'wait at least' },
    { key: 'maxWait', label: 'wait at most' },
  ] as const;
  protected readonly changedWords = computed(() =>
    this.draft
      .changed()
      .map((part) => PARTS[part])
      .join(', '),
  );

  protected wrongAt(field: string): string | undefined {
    return this.wrongs()[field];
  }

  /** The place of an entry among those that are sent, as the server names it. */
  protected wrongCrew(id: string): string | undefined {
    const place = (this.draft.body().resources ?? []).findIndex((each) => each.id === id);
    return place < 0
      ? undefined
      : (this.wrongAt(`resources.${place}.calendarId`) ?? this.wrongAt(`resources.${place}.count`));
  }

  protected setCrew(id: string, patch: Partial<Resource>): void {
    this.draft.crew.update((crew) => ({ ...crew, [id]: { ...crew[id]!, ...patch } }));
  }

  protected setNumber(key: string, value: number | null): void {
    this.draft.numbers.update((numbers) => ({ ...numbers, [key]: value }));
  }

  protected setTyped(key: string, text: string | undefined): void {
    this.draft.typed.update((typed) => ({ ...typed, [key]: text }));
  }

  protected setTime(kind: string, field: 'minutes' | 'minWait' | 'maxWait', text: string): void {
    this.draft.times.update((times) => ({ ...times, [kind]: { ...times[kind]!, [field]: text } }));
  }

  protected setCup(place: number, patch: Partial<CupRow>): void {
    this.draft.cups.update((cups) => cups.map((cup, i) => (i === place ? { ...cup, ...patch } : cup)));
  }

  protected addCup(): void {
    this.draft.cups.update((cups) => [...cups, { name: '', topMm: null, bottomMm: null, heightMm: null }]);
  }

  protected removeCup(place: number): void {
    this.draft.cups.update((cups) => cups.filter((_, i) => i !== place));
  }

  protected asItWas(): void {
    this.tried.set(false);
    this.sending.reset();
    this.draft.asItWas();
    this.read();
  }

  /** Somebody else has changed them meanwhile: what is there now, in place of what was typed. */
  protected anew(): void {
    this.draft.base.set(undefined);
    this.asItWas();
  }

  protected save(): void {
    this.tried.set(true);
    if (Object.keys(this.draft.unread()).length > 0) {
      this.sending.refuse('Some of it cannot be read', this.draft.unread());
      return;
    }
    this.sending.send('/settings', this.draft.body(), () => this.saved(), {
      method: 'put',
      said: 'Saved; dates follow',
    });
  }

  private saved(): void {
    this.tried.set(false);
    this.draft.base.set(undefined);
    this.shop.load().subscribe(() => this.read());
  }

  /** Closed days still to come, those that follow one another as one. */
  private closedIn(days: readonly Day[]): string {
    const today = this.shop.today();
    return daySpans(days.filter((day) => day >= today))
      .map(({ from, until }) =>
        from === until ? this.shop.day(from) : `${this.shop.day(from)} to ${this.shop.day(until)}`,
      )
      .join(', ');
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type {
  Calendar,
  PlanningAnswer,
  Resource,
  SaveNumbers,
  SaveResource,
  SaveTimes,
  ShopNumbers,
  Unit,
} from '@kalvet/core';
import { ROOM_NAMES } from '@kalvet/core';
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
import { hoursInWords, parseSpan, spanShort } from '../../shared/hours';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** The numbers of the shop as they are shown: shares in per cent. */
const NUMBERS: readonly {
  key: Exclude<keyof ShopNumbers, 'timeZone'>;
  label: string;
  unit: Unit;
  share?: boolean;
  decimals: number;
}[] = [
  { key: 'crucibleUsableKg', label: 'Crucible, usable', unit: 'kg', decimals: 1 },
  { key: 'crucibleHoldsKg', label: 'Crucible, to the rim', unit: 'kg', decimals: 1 },
  { key: 'kilnPlaces', label: 'Kiln, places for trees', unit: '', decimals: 0 },
  { key: 'furnaceKw', label: 'Furnace, power', unit: 'kW', decimals: 0 },
  { key: 'furnaceEfficiency', label: 'Furnace, share into the metal', unit: '%', share: true, decimals: 0 },
  { key: 'meltLoss', label: 'Melt loss', unit: '%', share: true, decimals: 1 },
  { key: 'returnsShare', label: 'Returns in a charge, at most', unit: '%', share: true, decimals: 0 },
  { key: 'pigReserveKg', label: 'Pig reserve', unit: 'kg', decimals: 1 },
  { key: 'crucibleKg', label: 'Crucible, empty', unit: 'kg', decimals: 1 },
  { key: 'tongsKg', label: 'Tongs and shank', unit: 'kg', decimals: 1 },
  { key: 'carriers', label: 'People who carry the crucible (0: a hoist does)', unit: '', decimals: 0 },
  { key: 'waxBand', label: 'Wax, allowed off its plan', unit: '%', share: true, decimals: 0 },
  { key: 'liftLimitKg', label: 'Lift limit, one person', unit: 'kg', decimals: 0 },
];

/** Hours, hands, kiln, crucible, and the times of the route: what dates are worked out from. Used at once. */
@Component({
  selector: 'kv-settings',
  imports: [
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
  protected readonly numbers = NUMBERS;

  protected readonly savingCrew = new Submission();
  protected readonly savingNumbers = new Submission();
  protected readonly savingTimes = new Submission();

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
        calendar.closed.length > 0 ? `closed ${calendar.closed.map((day) => this.shop.day(day)).join(', ')}` : '',
        ...calendar.extra.map(({ date, from, to }) => `also ${this.shop.day(date)} ${from}–${to}`),
      ]
        .filter(Boolean)
        .join(' · '),
    }));
  });

  protected readonly crew = linkedSignal<Resource[]>(() => [...(this.answer()?.resources ?? [])]);
  protected readonly typed = linkedSignal<Record<string, number | null>>(() => {
    const settings = this.answer()?.settings;
    return Object.fromEntries(
      NUMBERS.map(({ key, share }) => [key, settings ? round(settings[key] * (share ? 100 : 1)) : null]),
    );
  });
  /** What was typed in another unit than the one that is kept. */
  protected readonly asTyped = linkedSignal<Readonly<Record<string, string | undefined>>>(
    () => this.answer()?.settings.typed ?? {},
  );
  protected readonly timeZone = linkedSignal(() => this.answer()?.settings.timeZone ?? '');
  protected readonly zones = Intl.supportedValuesOf('timeZone');
  protected readonly times = linkedSignal(() =>
    (this.answer()?.kinds ?? []).map((kind) => ({
      ...kind,
      minutes: spanShort(kind.own.minutes ?? kind.usual.minutes),
      minWait: spanShort(kind.own.minWait ?? kind.usual.minWait),
      maxWait: spanShort(kind.own.maxWait === undefined ? kind.usual.maxWait : kind.own.maxWait),
      changed: Object.keys(kind.own).length > 0,
    })),
  );
  protected readonly timesWrong = signal<Readonly<Record<string, string>>>({});

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

  protected setCrew(id: string, patch: Partial<Resource>): void {
    this.crew.update((crew) => crew.map((each) => (each.id === id ? { ...each, ...patch } : each)));
  }

  protected isChanged(each: Resource): boolean {
    const before = this.answer()?.resources.find(({ id }) => id === each.id);
    return (
      before !== undefined &&
      (before.count !== each.count ||
        before.calendarId !== each.calendarId ||
        before.setupMinutes !== each.setupMinutes)
    );
  }

  protected saveCrew({ id, version, count, calendarId, setupMinutes, name }: Resource): void {
    const body: SaveResource = { version, count, calendarId, setupMinutes };
    this.savingCrew.send(`/resources/${id}`, body, () => this.read(), {
      method: 'put',
      said: `${name}: saved; dates follow`,
    });
  }

  protected setNumber(key: string, value: number | null): void {
    this.typed.update((typed) => ({ ...typed, [key]: value }));
  }

  protected setTyped(key: string, text: string | undefined): void {
    this.asTyped.update((typed) => ({ ...typed, [key]: text }));
  }

  protected saveNumbers(): void {
    const typed = this.typed();
    const values = Object.fromEntries(
      NUMBERS.map(({ key, share }) => [key, typed[key] === null ? null : round(typed[key]! / (share ? 100 : 1))]),
      // What is left empty is refused by the server, by name.
    ) as unknown as Omit<ShopNumbers, 'timeZone'>;
    const body: SaveNumbers = {
      version: this.answer()!.settingsVersion,
      ...values,
      timeZone: this.timeZone(),
      typed: Object.fromEntries(Object.entries(this.asTyped()).flatMap(([key, text]) => (text ? [[key, text]] : []))),
    };
    this.savingNumbers.send('/settings/numbers', body, () => this.shop.load().subscribe(() => this.read()), {
      method: 'put',
      said: 'Saved; dates follow',
    });
  }

  protected setTime(kind: string, field: 'minutes' | 'minWait' | 'maxWait', text: string): void {
    this.times.update((times) => times.map((each) => (each.kind === kind ? { ...each, [field]: text } : each)));
  }

  /** Sends what differs from the usual route; what is the same again is the usual route's again. */
  protected saveTimes(kind: string): void {
    const row = this.times().find((each) => each.kind === kind)!;
    const read = { minutes: parseSpan(row.minutes), minWait: parseSpan(row.minWait), maxWait: parseSpan(row.maxWait) };
    const bad = Object.entries(read).find(
      ([key, value]) => value === undefined || (value === null && key !== 'maxWait'),
    );
    this.timesWrong.set(bad ? { [kind]: 'Write minutes, hours or days: 90, 3 h, 2 d; – for no maximum' } : {});
    if (bad) return;
    const times = Object.fromEntries(
      Object.entries(read).filter(([key, value]) => value !== row.usual[key as keyof typeof row.usual]),
    );
    const body: SaveTimes = { version: this.answer()!.settingsVersion, kind, times };
    this.savingTimes.send('/settings/times', body, () => this.read(), {
      method: 'put',
      said: `${row.name}: saved; dates follow`,
    });
  }
}

const round = (value: number) => Math.round(value * 10_000) / 10_000;

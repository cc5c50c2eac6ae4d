import { computed, signal } from '@angular/core';
import type { PlanningAnswer, PourCard, Resource, SaveSettings, ShopNumbers } from '@kalvet/core';
import { USUAL_CARD } from '@kalvet/core';
import { parseSpan, spanShort } from '../../shared/hours';
import type { Submission } from '../../shared/submission';
import { NUMBERS, keptNumber, shownNumber } from './numbers';
import type { CupRow } from './tree-stock';
import { cupOf, cupRow, sizesInWords, stockOfSizes, wrongSizes } from './tree-stock';

type TimeKey = 'minutes' | 'minWait' | 'maxWait';
type TimesTyped = Readonly<Record<string, Readonly<Record<TimeKey, string>>>>;
type CrewTyped = Pick<Resource, 'count' | 'calendarId' | 'setupMinutes'>;

const TIME_KEYS: readonly TimeKey[] = ['minutes', 'minWait', 'maxWait'];
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** Everything on the page of settings as it is typed, what of it differs from what is kept, and that as it is sent. */
export class SettingsDraft {
  /** What was there when it was begun to type. */
  readonly base = signal<PlanningAnswer | undefined>(undefined);
  readonly numbers = signal<Readonly<Record<string, number | null>>>({});
  /** What was typed in another unit than the one that is kept. */
  readonly typed = signal<Readonly<Record<string, string | undefined>>>({});
  readonly timeZone = signal('');
  readonly crew = signal<Readonly<Record<string, CrewTyped>>>({});
  readonly times = signal<TimesTyped>({});
  readonly cups = signal<readonly CupRow[]>([]);
  readonly squares = signal('');
  readonly rounds = signal('');
  readonly card = signal<PourCard>(USUAL_CARD);

  private readonly fresh = computed(() => freshOf(this.base()));

  /** Which parts are changed: their names, for whoever saves them. */
  readonly changed = computed(() => {
    const fresh = this.fresh();
    if (!fresh) return [];
    const numbers = !same(this.numbers(), fresh.numbers) || this.timeZone() !== fresh.timeZone;
    return [
      ...(numbers ? ['numbers' as const] : []),
      ...(same(this.crew(), fresh.crew) ? [] : ['crew' as const]),
      ...(same(this.times(), fresh.times) ? [] : ['times' as const]),
      ...(same(this.cups(), fresh.cups) ? [] : ['cups' as const]),
      ...(same(this.card(), fresh.card) ? [] : ['card' as const]),
      ...(this.squares() === fresh.squares && this.rounds() === fresh.rounds ? [] : ['bars' as const]),
    ];
  });

  /** What cannot be read, by field; nothing is sent then. */
  readonly unread = computed<Readonly<Record<string, string>>>(() => ({
    ...Object.fromEntries(
      Object.entries(this.times()).flatMap(([kind, typed]) =>
        TIME_KEYS.flatMap((key) => {
          const value = parseSpan(typed[key]);
          const bad = value === undefined || (value === null && key !== 'maxWait');
          return bad ? [[`times.${kind}.${key}`, 'write minutes, hours or days: 90, 3 h, 2 d; – for no maximum']] : [];
        }),
      ),
    ),
    ...wrongIn('squares', wrongSizes(this.squares(), 'S')),
    ...wrongIn('rounds', wrongSizes(this.rounds(), 'R')),
  }));

  /** Shows what is kept, and keeps from now on what is typed over it. */
  begin(answer: PlanningAnswer, sending: Submission): void {
    this.base.set(answer);
    this.asItWas();
    const { numbers, typed, timeZone, crew, times, cups, squares, rounds, card } = this;
    const of = [answer.settingsVersion, ...answer.resources.map(({ version }) => version)].join('.');
    sending.keep(`settings ${of}`, { numbers, typed, timeZone, crew, times, cups, squares, rounds, card });
  }

  /** Back to what is kept. */
  asItWas(): void {
    const fresh = this.fresh();
    if (!fresh) return;
    this.numbers.set(fresh.numbers);
    this.typed.set(this.base()!.settings.typed);
    this.timeZone.set(fresh.timeZone);
    this.crew.set(fresh.crew);
    this.times.set(fresh.times);
    this.cups.set(fresh.cups);
    this.squares.set(fresh.squares);
    this.rounds.set(fresh.rounds);
    this.card.set(fresh.card);
  }

  /** Only what is changed goes to the server. */
  body(): SaveSettings {
    const base = this.base()!;
    const changed = new Set(this.changed());
    const stock = [...stockOfSizes(this.squares(), 'S'), ...stockOfSizes(this.rounds(), 'R')];
    return {
      version: base.settingsVersion,
      ...(changed.has('numbers') ? { numbers: this.saidNumbers() } : {}),
      ...(changed.has('crew') ? { resources: this.saidCrew(base) } : {}),
      ...(changed.has('times') ? { times: this.saidTimes(base) } : {}),
      ...(changed.has('cups') ? { cups: this.cups().map(cupOf) } : {}),
      ...(changed.has('bars') ? { barStock: stock } : {}),
      ...(changed.has('card') ? { pourCard: this.card() } : {}),
    };
  }

  private saidNumbers(): NonNullable<SaveSettings['numbers']> {
    const shown = this.numbers();
    // What is left empty is refused by the server, by name.
    const values = Object.fromEntries(
      NUMBERS.map((each) => [each.key, keptNumber(each, shown[each.key] ?? null)]),
    ) as unknown as Omit<ShopNumbers, 'timeZone'>;
    const typed = Object.entries(this.typed()).flatMap(([key, text]) => (text ? [[key, text]] : []));
    return { ...values, timeZone: this.timeZone(), typed: Object.fromEntries(typed) };
  }

  private saidCrew({ resources }: PlanningAnswer) {
    const fresh = this.fresh()!.crew;
    return resources
      .filter(({ id }) => !same(this.crew()[id], fresh[id]))
      .map(({ id, version }) => ({ id, version, ...this.crew()[id]! }));
  }

  /** What differs from the usual route; what is the same again is the usual route's again. */
  private saidTimes({ kinds }: PlanningAnswer): NonNullable<SaveSettings['times']> {
    const fresh = this.fresh()!.times;
    return Object.fromEntries(
      kinds
        .filter(({ kind }) => !same(this.times()[kind], fresh[kind]))
        .map(({ kind, usual }) => [
          kind,
          Object.fromEntries(
            TIME_KEYS.map((key) => [key, parseSpan(this.times()[kind]![key])] as const).filter(
              ([key, value]) => value !== usual[key],
            ),
          ),
        ]),
    );
  }
}

const wrongIn = (field: string, text: string | undefined) => (text === undefined ? {} : { [field]: text });

/** What is kept, as it is shown. */
function freshOf(answer: PlanningAnswer | undefined) {
  if (!answer) return undefined;
  const { settings, resources, kinds } = answer;
  return {
    numbers: Object.fromEntries(NUMBERS.map((each) => [each.key, shownNumber(each, settings[each.key])])),
    timeZone: settings.timeZone,
    crew: Object.fromEntries(
      resources.map(({ id, count, calendarId, setupMinutes }) => [id, { count, calendarId, setupMinutes }]),
    ),
    times: Object.fromEntries(
      kinds.map(({ kind, own, usual }) => [
        kind,
        {
          minutes: spanShort(own.minutes ?? usual.minutes),
          minWait: spanShort(own.minWait ?? usual.minWait),
          maxWait: spanShort(own.maxWait === undefined ? usual.maxWait : own.maxWait),
        },
      ]),
    ),
    cups: settings.cups.map(cupRow),
    squares: sizesInWords(settings.barStock, 'S'),
    rounds: sizesInWords(settings.barStock, 'R'),
    card: settings.pourCard,
  };
}

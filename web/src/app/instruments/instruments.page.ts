import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import type { Instrument, InstrumentKind, InstrumentReading, InstrumentsAnswer, TemperaturePlace } from '@kalvet/core';
import {
  INSTRUMENT_KINDS,
  INSTRUMENT_LOOKS_AT,
  INSTRUMENT_NAMES,
  MEANS_K,
  TEMPERATURE_PLACES,
  toMs,
} from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Subject, catchError, filter, merge, of, switchMap, timer } from 'rxjs';
import { Api } from '../shared/api.service';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { KeepingTabs } from '../shared/keeping-tabs.component';
import { May } from '../shared/may.directive';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { asDay, dayPicker } from '../shared/time';
import { When } from '../shared/when/when.component';

const LISTEN_MS = 2000;
/** What was said longer ago is silence, s. */
const FRESH_S = 15;

/** Instruments whose readings come in by themselves: what each says now, and what it is. */
@Component({
  selector: 'kv-instruments',
  imports: [
    ButtonModule,
    Field,
    KeepingTabs,
    FormsModule,
    InputTextModule,
    May,
    QuantityInput,
    Refusal,
    SelectModule,
    When,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './instruments.page.html',
  styleUrls: ['../shared/list.page.css', './instruments.page.css'],
})
export class InstrumentsPage {
  protected readonly shop = inject(ShopService);
  private readonly api = inject(Api);
  protected readonly sending = new Submission();
  private readonly again = new Subject<void>();
  protected readonly answer = toSignal(
    merge(timer(0, LISTEN_MS), this.again).pipe(
      filter(() => !document.hidden),
      switchMap(() => this.api.get<InstrumentsAnswer>('/instruments').pipe(catchError(() => of(undefined)))),
      filter((found) => found !== undefined),
    ),
  );
  protected readonly names = INSTRUMENT_NAMES;
  protected readonly kinds = INSTRUMENT_KINDS.map((code) => ({ code, label: INSTRUMENT_NAMES[code] }));
  protected readonly places = TEMPERATURE_PLACES.map((code) => ({ code, label: code }));
  protected readonly states = ['in use', 'off'];
  protected readonly example = '{ "value": 1163, "unit": "°C", "at": "2026-12-03T13:01:02Z" }';
  protected readonly rows = computed(() => {
    const { now = '', instruments = [], places = [] } = this.answer() ?? {};
    return instruments.map((each) => {
      const agoS = each.last ? (toMs(now) - toMs(each.last.at)) / 1000 : null;
      const isFresh = agoS !== null && agoS < FRESH_S;
      return {
        each,
        isFresh,
        value: this.valueOf(each.last, each.kind),
        readsAt: each.where ?? places.find(({ id }) => id === each.ofId)?.name ?? '–',
        stand:
          each.last === null
            ? 'never heard'
            : isFresh
              ? each.last.settled
                ? 'at rest'
                : 'moving'
              : `silent since ${this.shop.when(each.last.at)}`,
        doubt: each.last?.doubt ? this.shop.words(each.last.doubt) : '',
      };
    });
  });

  private valueOf(last: InstrumentReading | null, kind: InstrumentKind): string {
    if (!last) return '–';
    if (kind === 'meter') return last.value.toFixed(1);
    if (kind === 'cup' || kind === 'scale') return this.shop.amount(last.value, kind === 'cup' ? 's' : 'kg', 1);
    const celsius = this.shop.amount(last.value, '°C', last.humidityPercent === null ? 0 : 1);
    return last.humidityPercent === null ? celsius : `${celsius}, ${this.shop.amount(last.humidityPercent, '%', 0)}`;
  }

  protected readonly editing = signal<Instrument | 'new' | null>(null);
  protected readonly looksAt = computed(() => INSTRUMENT_LOOKS_AT[this.kind()]);
  protected readonly readsPlace = computed(() => this.looksAt() === 'drying place' || this.looksAt() === 'tank');
  protected readonly dryingPlaces = computed(() =>
    (this.answer()?.places ?? [])
      .filter(({ what }) => what === this.looksAt())
      .map(({ id, name }) => ({ code: id, label: name })),
  );
  protected readonly ofId = signal<string | null>(null);
  private id = newId();
  protected readonly code = signal('');
  protected readonly name = signal('');
  protected readonly kind = signal<InstrumentKind>('immersion');
  protected readonly where = signal<TemperaturePlace>('furnace');
  protected readonly plusMinusK = signal<number | null>(MEANS_K.immersion);
  protected readonly emissivity = signal<number | null>(null);
  protected readonly calibrated = signal<Date | null>(null);
  protected readonly state = signal<Instrument['state']>('in use');

  protected take(kind: InstrumentKind): void {
    this.kind.set(kind);
    this.ofId.set(this.dryingPlaces()[0]?.code ?? null);
  }

  protected edit(instrument: Instrument | 'new'): void {
    this.editing.set(instrument);
    const isNew = instrument === 'new';
    this.id = isNew ? newId() : instrument.id;
    this.code.set(isNew ? '' : instrument.code);
    this.name.set(isNew ? '' : instrument.name);
    this.kind.set(isNew ? 'immersion' : instrument.kind);
    this.where.set(isNew ? 'furnace' : (instrument.where ?? 'furnace'));
    this.ofId.set(isNew ? (this.dryingPlaces()[0]?.code ?? null) : instrument.ofId);
    this.plusMinusK.set(isNew ? MEANS_K.immersion : instrument.plusMinusK);
    this.emissivity.set(isNew ? null : instrument.emissivity);
    this.calibrated.set(isNew || !instrument.calibratedOn ? null : dayPicker(instrument.calibratedOn));
    this.state.set(isNew ? 'in use' : instrument.state);
  }

  protected save(): void {
    const editing = this.editing();
    const isMeter = this.kind() === 'meter';
    const body = {
      id: this.id,
      version: editing === null || editing === 'new' ? 0 : editing.version,
      code: this.code().trim(),
      name: this.name().trim(),
      kind: this.kind(),
      where: this.looksAt() === 'heat' ? this.where() : null,
      ofId: this.readsPlace() ? this.ofId() : null,
      plusMinusK: isMeter ? 0 : this.plusMinusK(),
      emissivity: this.kind() === 'infrared' ? this.emissivity() : null,
      calibratedOn: asDay(this.calibrated()),
      state: this.state(),
    };
    this.sending.send(
      '/instruments',
      body,
      () => {
        this.editing.set(null);
        this.again.next();
      },
      { said: 'Instrument entered' },
    );
  }
}

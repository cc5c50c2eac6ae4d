import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ImportedClimate, PlaceAir } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { May } from '../shared/may.directive';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { When } from '../shared/when/when.component';

/** The air as somebody read it off, or as a data logger's file has it. */
@Component({
  selector: 'kv-climate-form',
  imports: [ButtonModule, Choices, Field, FormsModule, May, QuantityInput, Refusal, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <kv-field label="Where" labelId="c-place">
      <kv-choices
        [options]="options()"
        [value]="placeId()"
        (valueChange)="placeId.set($any($event))"
        labelledBy="c-place" />
    </kv-field>
    <form (ngSubmit)="save()" autocomplete="off">
      <h2>As it stands on the dial</h2>
      <div class="fields">
        <kv-field label="Temperature" unit="°C" for="c-t" [error]="sending.fields()['celsius']">
          <kv-quantity inputId="c-t" unit="°C" [decimals]="1" [(value)]="celsius" />
        </kv-field>
        <kv-field label="Humidity" unit="%" for="c-rh" [error]="sending.fields()['humidityPercent']">
          <kv-quantity inputId="c-rh" unit="%" [decimals]="0" [(value)]="humidity" />
        </kv-field>
        <kv-field label="Read at" for="c-at" [error]="sending.fields()['at']">
          <kv-when inputId="c-at" [time]="true" [(value)]="at" />
        </kv-field>
      </div>
      <kv-refusal [submission]="sending" (reload)="done.emit()" />
      <div class="row">
        <button pButton type="submit" size="small" data-test="save-climate" [disabled]="sending.busy()">
          Write down
        </button>
        <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="cancelled.emit()">
          Back
        </button>
      </div>
    </form>
    <form *kvMay="'import climate'; room: 'shell'" (ngSubmit)="(false)">
      <h2>From a logger’s file</h2>
      <p class="kv-soft">CSV with a line of heads: time, temperature and humidity. The same file twice is kept once.</p>
      <label class="kv-button choose">
        Choose a file
        <input
          type="file"
          accept=".csv,.txt,text/csv"
          class="kv-hidden"
          data-test="climate-file"
          (change)="take($any($event.target))" />
      </label>
      @if (reading()) {
        <p class="kv-soft" role="status">Reading {{ reading() }} …</p>
      }
      @if (file.fields()['text']; as text) {
        <p class="kv-alert" role="alert">{{ text }}</p>
      } @else {
        <kv-refusal [submission]="file" (reload)="file.reset()" />
      }
      @if (read(); as found) {
        <div role="status">
          <p>
            {{ found.added }} readings kept{{ found.known > 0 ? ', ' + found.known + ' were there already' : '' }}:
            {{ shop.when(found.from) }} to {{ shop.when(found.until) }}.
          </p>
          @for (note of found.notes; track note) {
            <p>{{ note }}</p>
          }
          @for (left of found.left; track left.line) {
            <p class="kv-soft">Line {{ left.line }} left out: {{ left.why }}</p>
          }
        </div>
      }
    </form>
  `,
  styleUrl: '../shared/panel-form.css',
})
export class ClimateForm {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  protected readonly file = new Submission();
  readonly places = input.required<readonly PlaceAir[]>();
  readonly done = output();
  readonly cancelled = output();
  protected readonly options = computed(() =>
    this.places()
      .filter(({ place }) => place.state === 'in use')
      .map(({ place }) => ({ code: place.id, label: place.name })),
  );
  protected readonly placeId = linkedSignal(() => this.options()[0]?.code ?? '');
  protected readonly celsius = signal<number | null>(null);
  protected readonly humidity = signal<number | null>(null);
  protected readonly at = signal<Date | null>(this.shop.pickerNow());
  protected readonly reading = signal('');
  protected readonly read = signal<ImportedClimate | undefined>(undefined);

  protected save(): void {
    const at = this.at();
    const body = {
      placeId: this.placeId(),
      at: at ? this.shop.instantOf(at) : this.shop.exactNow(),
      celsius: this.celsius(),
      humidityPercent: this.humidity(),
    };
    this.sending.send('/shell/climate', body, () => this.done.emit(), { said: 'Air written down' });
  }

  protected async take(chooser: HTMLInputElement): Promise<void> {
    const chosen = chooser.files?.[0];
    if (!chosen) return;
    this.file.reset();
    this.read.set(undefined);
    this.reading.set(chosen.name);
    const text = await chosen.text();
    chooser.value = '';
    this.reading.set('');
    this.file.send<ImportedClimate>(
      '/shell/climate/file',
      { placeId: this.placeId(), name: chosen.name, text },
      (found) => this.read.set(found),
      { said: 'File read in' },
    );
  }
}

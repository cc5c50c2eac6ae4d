import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ImportedKiln, KilnAnswer, KilnLoadView } from '@kalvet/core';
import { waxBalance } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Field } from '../shared/field.component';
import { May } from '../shared/may.directive';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { FireCurve } from './fire-curve.component';
import { KilnFloor } from './kiln-floor.component';

/** A load that is planned or burns: where its trees stand, how it fires, and what is done with it next. */
@Component({
  selector: 'kv-kiln-load',
  imports: [ButtonModule, Field, FireCurve, FormsModule, InputTextModule, KilnFloor, May, QuantityInput, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './kiln-load.component.html',
  styleUrls: ['../shared/panel-form.css', './kiln-load.component.css'],
})
export class KilnLoad {
  protected readonly shop = inject(ShopService);
  protected readonly lighting = new Submission();
  protected readonly ending = new Submission();
  protected readonly file = new Submission();
  readonly load = input.required<KilnLoadView>();
  readonly kiln = input.required<KilnAnswer>();
  readonly gone = output();
  protected readonly doing = signal<'light' | 'end' | null>(null);
  protected readonly cupsDown = signal(false);
  protected readonly cupsNote = signal('');
  protected readonly topC = signal<number | null>(null);
  protected readonly waxBackKg = signal<number | null>(null);
  protected readonly energyKwh = signal<number | null>(null);
  protected readonly lost = signal<Readonly<Record<string, string | undefined>>>({});
  protected readonly read = signal('');

  protected readonly profile = computed(() => this.kiln().profiles.find(({ id }) => id === this.load().profileId));
  protected readonly stands = computed(() =>
    this.load().trees.flatMap(({ treeId, label, floor }) => (floor ? [{ treeId, label, floor }] : [])),
  );
  protected readonly also = computed(() =>
    this.kiln()
      .waiting.filter(({ treeId }) => this.load().alsoFit.includes(treeId))
      .map(({ label }) => label),
  );
  protected readonly alarms = computed(() => this.load().verdict.alarms.map((text) => this.shop.words(text)));
  protected readonly holds = computed(() =>
    this.load().verdict.holds.map(
      ({ holdC, heldMinutes, plannedMinutes }) =>
        `${this.shop.amount(holdC, '°C', 0)} held ${Math.round(heldMinutes)} of ${Math.round(plannedMinutes)} min`,
    ),
  );
  protected readonly lag = computed(() => {
    const { lagK } = this.load().verdict;
    return lagK === null ? '' : `the coldest lay ${this.shop.amount(lagK, 'K', 0)} behind at most`;
  });
  /** What the wax comes to, before it is sent. */
  protected readonly balance = computed(() => {
    const [inKg, backKg] = [this.load().waxInKg, this.waxBackKg()];
    if (inKg === null || backKg === null || Number.isNaN(backKg) || backKg < 0) return undefined;
    const found = waxBalance({ castsKg: inKg, barsKg: 0, cupsKg: 0, recoveredKg: backKg });
    return { looks: found.looks, says: this.shop.words(found.says) };
  });

  protected light(override = false): void {
    const { id, version } = this.load();
    const body = { version, at: this.shop.exactNow(), cupsDown: this.cupsDown(), cupsNote: this.cupsNote().trim() };
    this.lighting.send(`/loads/${id}/light`, body, () => this.doing.set(null), { override, said: 'Kiln lit' });
  }

  protected end(override = false): void {
    const { id, version, verdict } = this.load();
    const person = this.shop.person();
    const body = {
      version,
      startedAt: null,
      endedAt: this.shop.exactNow(),
      by: person ? [person.id] : [],
      profile: this.profile()?.name ?? 'as the kiln went',
      topC: this.topC() ?? verdict.hottestC,
      note: '',
      waxBackKg: this.waxBackKg(),
      energyKwh: this.energyKwh(),
      lost: Object.entries(this.lost()).flatMap(([treeId, why]) => (why === undefined ? [] : [{ treeId, why }])),
    };
    this.ending.send(`/loads/${id}/record`, body, () => this.gone.emit(), {
      override,
      said: `Load L-${this.load().number} recorded`,
    });
  }

  protected lose(treeId: string, why: string | undefined): void {
    this.lost.update((lost) => ({ ...lost, [treeId]: why }));
  }

  protected async take(chooser: HTMLInputElement): Promise<void> {
    const chosen = chooser.files?.[0];
    if (!chosen) return;
    this.file.reset();
    this.read.set(`Reading ${chosen.name} …`);
    const text = await chosen.text();
    chooser.value = '';
    this.file.send<ImportedKiln>(
      `/loads/${this.load().id}/file`,
      { name: chosen.name, text },
      ({ added, known, channels }) =>
        this.read.set(
          `${added} readings of ${channels.length} thermocouples kept${known > 0 ? `, ${known} were there` : ''}.`,
        ),
      { said: 'File read in' },
    );
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Figure } from '@kalvet/core';
import {
  RUBBERS,
  castFromWax,
  coatsByPlan,
  plannedWax,
  shellWeight,
  slurryFor,
  volumeAt,
  wallOfWax,
  waxFromCurve,
  waxesKnown,
} from '@kalvet/core';
import { waxOfVolume } from '@kalvet/core/wax/from-volume';
import { ASKED_UNITS } from '@kalvet/core/mesh/length';
import { ButtonModule } from 'primeng/button';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { FigureText } from '../shared/figure.component';
import { newId } from '../shared/ids';
import { May } from '../shared/may.directive';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { WordsPipe } from '../shared/words.pipe';
import { ModelDesk } from './model-desk';

/** How large the bronze is to be, and what original, wax and metal weigh then. */
@Component({
  selector: 'kv-size-panel',
  imports: [ButtonModule, Choices, Field, FigureText, FormsModule, May, QuantityInput, Refusal, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './size-panel.component.html',
  styleUrl: './panel.css',
})
export class SizePanel {
  protected readonly desk = inject(ModelDesk);
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly changed = output();
  protected readonly rubbers = RUBBERS.map(({ code, label, shrinkage }) => ({
    code,
    label: `${label} ${(shrinkage * 100).toFixed(2)} %`,
  }));
  protected readonly units = ASKED_UNITS.map((code) => ({ code, label: code }));
  protected readonly axes = computed(() =>
    (['x', 'y', 'z'] as const).map((code) => ({
      code,
      label: code === this.desk.asked()?.up ? 'height' : code === 'x' ? 'width' : 'depth',
    })),
  );
  protected readonly ways = [
    { code: true, label: 'A size is wanted' },
    { code: false, label: 'The model is the original' },
  ];
  protected readonly isWanted = computed(() => this.desk.bronzeMm() !== null);
  protected readonly sizes = computed(() => {
    const measured = this.desk.measured();
    if (!measured) return '';
    return measured.sizeMm.map((size) => this.shop.amount(size, 'mm', 0)).join(' × ');
  });

  /** Wax, metal, surface and slurry at the section's wall. */
  protected readonly weights = computed(() => {
    const measured = this.desk.measured();
    if (!measured || measured.volumeCm3 === null || measured.curve.length === 0) return null;
    const wax = waxFromCurve(measured.curve, this.desk.wallMm());
    const coats = coatsByPlan(this.shop.settings().coatPlans[0]!, this.desk.section()?.metalHeightMm ?? null);
    const cast = castFromWax(wax.value, this.desk.alloy());
    const metal: Figure = {
      ...cast,
      plusMinus: Math.hypot(cast.plusMinus ?? 0, (cast.value * (wax.plusMinus ?? 0)) / wax.value),
    };
    const whole = { volumeCm3: measured.volumeCm3, plusMinusCm3: measured.volumePlusMinusCm3, of: 'the solid model' };
    const solid = castFromWax(waxOfVolume(whole).value, this.desk.alloy());
    const isSolid = volumeAt(measured.curve, this.desk.wallMm()).volumeCm3 > 0.98 * measured.volumeCm3;
    return {
      wax,
      metal,
      solid,
      isSolid,
      coats,
      shell: shellWeight(measured.areaCm2, coats),
      slurry: slurryFor(measured.areaCm2, coats),
    };
  });
  protected readonly area = computed(() => {
    const areaCm2 = this.desk.measured()?.areaCm2;
    return areaCm2 === undefined ? '' : this.shop.amount(areaCm2 / 1e4, 'm2', 3);
  });

  /** Every way in which each section's wax is known, and which of them counts. */
  protected readonly known = computed(() =>
    this.desk.sections().map((section) => {
      const counts = plannedWax(section);
      const kept = [...section.estimates].filter(({ voidReason }) => voidReason === null);
      return {
        section,
        counts,
        all: waxesKnown(section),
        kept,
        weighed: this.weighedOf(section.waxes.at(-1), section, counts),
      };
    }),
  );

  /** The last wax on the scale beside the plan, and what the difference is of the wall. */
  private weighedOf(
    last: { readonly label: string; readonly kg: number } | undefined,
    section: ReturnType<ModelDesk['sections']>[number],
    plan: Figure | undefined,
  ): string {
    if (!last || !plan) return '';
    const off = last.kg - plan.value;
    const more = `${off < 0 ? '−' : '+'}${this.shop.amount(Math.abs(off), 'kg', 2)}`;
    const wall = wallOfWax(last.kg, section)?.value;
    const instead =
      wall === undefined
        ? ''
        : `, a wall of ${this.shop.amount(wall, 'mm', 1)} instead of ${this.shop.amount(section.wallMm, 'mm', 1)}`;
    return `weighed ${this.shop.amount(last.kg, 'kg', 2)} (${last.label}): ${more}${instead}`;
  }

  protected want(is: boolean): void {
    const bronze = this.desk.chain()?.bronze.value ?? null;
    this.desk.bronzeMm.set(is && bronze !== null ? Math.round(bronze) : null);
  }

  /** The model counts for a section from now on. */
  protected takeFor(sectionId: string): void {
    const section = this.desk.sections().find(({ id }) => id === sectionId);
    const measured = this.desk.measured();
    if (!section || !measured) return;
    const add = {
      ...{ id: newId(), kind: 'model', waxKg: null, plusMinusKg: null, curve: measured.curve },
      ...{ areaCm2: measured.areaCm2, says: 'the model', modelId: this.desk.kept()?.id ?? null },
    };
    this.sending.send(
      `/sections/${sectionId}/estimates`,
      { version: section.version, add, putAway: null },
      () => this.changed.emit(),
      { method: 'put', said: `${section.name} is planned by the model` },
    );
  }

  protected putAway(sectionId: string, version: number, id: string): void {
    this.sending.send(
      `/sections/${sectionId}/estimates`,
      { version, add: null, putAway: { id, reason: 'does not count any more' } },
      () => this.changed.emit(),
      { method: 'put', said: 'It does not count any more' },
    );
  }
}

import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { CutPlane, SetUpWork, WorkAnswer } from '@kalvet/core';
import { castFromWax, waxFromCurve } from '@kalvet/core';
import { CURVE_WALLS_MM } from '@kalvet/core/wax/volume-curve';
import type { PartReport } from '@kalvet/core/weigh/index';
import { write3mf, writeStl } from '@kalvet/core/weigh/index';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { firstValueFrom } from 'rxjs';
import { Api, asApiError } from '../shared/api.service';
import { FigureText } from '../shared/figure.component';
import { newId, newKey } from '../shared/ids';
import { May } from '../shared/may.directive';
import { QuantityInput } from '../shared/quantity-input.component';
import { ShopService } from '../shared/shop.service';
import { WordsPipe } from '../shared/words.pipe';
import { ModelDesk } from './model-desk';
import { PART_COLOURS } from './part-colours';

const MOST_PLANES = 6;
const AXES = [
  { label: 'across its width', normal: [1, 0, 0] },
  { label: 'across its depth', normal: [0, 1, 0] },
  { label: 'level', normal: [0, 0, 1] },
] as const;

/** Where the work is cut, what each part then weighs and measures, and whether it fits the shop. */
@Component({
  selector: 'kv-cuts-panel',
  imports: [ButtonModule, FigureText, FormsModule, InputTextModule, May, QuantityInput, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './cuts-panel.component.html',
  styleUrl: './panel.css',
})
export class CutsPanel {
  protected readonly desk = inject(ModelDesk);
  protected readonly shop = inject(ShopService);
  private readonly api = inject(Api);
  readonly changed = output();
  protected readonly axes = AXES;
  protected readonly most = MOST_PLANES;
  protected readonly colours = PART_COLOURS;
  private readonly before = signal<readonly (readonly CutPlane[])[]>([]);
  protected readonly mayUndo = computed(() => this.before().length > 0);
  protected readonly making = signal('');
  protected readonly wrong = signal('');
  protected readonly asking = signal(false);

  protected readonly planes = computed(() =>
    this.desk.planes().map((plane, i) => {
      const axis = AXES.findIndex(({ normal }) => normal.every((each, k) => each === plane.normal[k]));
      const span = this.span(plane);
      return { plane, i, axis, ...span, words: axis >= 0 ? AXES[axis]!.label : 'aslant' };
    }),
  );
  protected readonly parts = computed(() =>
    this.desk.parts().map((part, i) => {
      const wax = waxFromCurve(part.curve, this.desk.wallMm());
      return {
        part,
        i,
        wax,
        metal: castFromWax(wax.value, this.desk.alloy()),
        size: part.sizeMm.map((mm) => Math.round(mm)).join(' × '),
        over: part.findings.filter(({ share }) => share > 1),
      };
    }),
  );
  /** What the parts weigh together, beside the whole. */
  protected readonly sum = computed(() => this.parts().reduce((kg, { metal }) => kg + metal.value, 0));
  protected readonly sectionNames = computed(() =>
    this.desk
      .sections()
      .map(({ name }) => name)
      .join(', '),
  );
  protected readonly fitsAll = computed(() => this.parts().every(({ over }) => over.every(({ stops }) => !stops)));

  /** From where to where along its normal a plane can lie, mm. */
  private span({ normal }: CutPlane): { from: number; to: number } {
    const mesh = this.desk.look()?.mesh;
    if (!mesh) return { from: 0, to: 0 };
    const { positions, originMm } = mesh;
    const length = Math.hypot(...normal);
    const origin = normal.reduce((sum, each, k) => sum + each * originMm[k]!, 0);
    let [from, to] = [Infinity, -Infinity];
    // Every so many vertices say enough for a slider.
    const step = 3 * Math.max(1, Math.floor(positions.length / 3 / 20_000));
    for (let i = 0; i < positions.length; i += step) {
      const at =
        (normal[0] * positions[i]! + normal[1] * positions[i + 1]! + normal[2] * positions[i + 2]! + origin) / length;
      from = Math.min(from, at);
      to = Math.max(to, at);
    }
    return { from, to };
  }

  private remember(): void {
    this.before.update((all) => [...all.slice(-30), this.desk.planes()]);
  }

  protected add(normal: readonly [number, number, number]): void {
    this.remember();
    const { from, to } = this.span({ normal, offsetMm: 0 });
    this.desk.planes.update((planes) => [...planes, { normal, offsetMm: Math.round((from + to) / 2) }]);
    this.desk.chosenPlane.set(this.desk.planes().length - 1);
    void this.desk.cut();
  }

  protected drop(i: number): void {
    this.remember();
    this.desk.planes.update((planes) => planes.filter((_, other) => other !== i));
    this.desk.chosenPlane.set(-1);
    void this.desk.cut();
  }

  protected put(i: number, offsetMm: number, done: boolean): void {
    if (!Number.isFinite(offsetMm)) return;
    if (done) this.remember();
    this.desk.chosenPlane.set(i);
    this.desk.planes.update((planes) => planes.map((plane, other) => (other === i ? { ...plane, offsetMm } : plane)));
    if (done) void this.desk.cut();
  }

  protected undo(): void {
    const last = this.before().at(-1);
    if (!last) return;
    this.before.update((all) => all.slice(0, -1));
    this.desk.planes.set(last);
    this.desk.chosenPlane.set(-1);
    void this.desk.cut();
  }

  protected async suggest(): Promise<void> {
    this.remember();
    await this.desk.suggest();
  }

  protected rename(i: number, name: string): void {
    this.desk.partNames.update((names) =>
      Array.from({ length: Math.max(names.length, i + 1) }, (_, k) => (k === i ? name : (names[k] ?? ''))),
    );
  }

  protected limitOf(findings: PartReport['findings'], limit: string) {
    return findings.find((finding) => finding.limit === limit);
  }

  /** The parts as files: closed, at the size of the wax; pins and keys are the sculptor's. */
  protected export(as: '3mf' | 'stl'): void {
    const parts = this.parts().map(({ part: { mesh }, i }) => ({
      name: this.desk.partName(i),
      positions: Float64Array.from(mesh.positions),
      triangles: mesh.triangles,
      originMm: mesh.originMm,
    }));
    if (as === '3mf') return save(write3mf(parts), 'sections.3mf', 'model/3mf');
    for (const part of parts) save(writeStl(part), `${part.name}.stl`, 'model/stl');
  }

  /**
   * Makes the work's sections from the parts: the work is set up anew with them, each in a mould of its own, and planned by
   * its part's curve. Only while nothing of it is begun.
   */
  protected async makeSections(): Promise<void> {
    const work = this.desk.answer()!.work;
    this.wrong.set('');
    try {
      this.making.set('weighing the parts at every wall …');
      await this.desk.cut(CURVE_WALLS_MM);
      const parts = this.desk.parts();
      if (parts.length === 0) return;
      this.making.set('setting the sections up …');
      const { setUp, work: now } = await firstValueFrom(this.api.get<WorkAnswer>(`/works/${work.id}`));
      if (!setUp) throw new Error('begun');
      const wallMm = this.desk.wallMm();
      const body: SetUpWork & { version: number } = {
        ...setUp,
        version: now.version,
        sections: parts.map((part, i) => ({
          name: this.desk.partName(i),
          wallMm,
          metalHeightMm: Math.round(Math.max(...part.sizeMm)),
          expectedWaxKg: null,
          areaCm2: Math.round(part.areaCm2),
          seamM: i === 0 || part.seamM === 0 ? null : Math.round(part.seamM * 100) / 100,
          deep: part.findings.some(({ limit, share }) => limit === 'drying' && share > 1),
        })),
        moulds:
          setUp.method === 'direct'
            ? []
            : parts.map((_, i) => ({ name: this.desk.partName(i).toLowerCase(), sections: [i + 1], pullsBefore: 0 })),
      };
      await firstValueFrom(this.api.put(`/works/${work.id}/set-up`, body, newKey()));
      await this.planByParts(work.id, parts);
      this.asking.set(false);
      this.changed.emit();
    } catch (failure) {
      this.wrong.set(
        failure instanceof Error && failure.message === 'begun'
          ? 'Work on it has begun: its sections stay. The cut is kept with the model when you keep it.'
          : asApiError(failure).message,
      );
    } finally {
      this.making.set('');
    }
  }

  private async planByParts(workId: string, parts: readonly PartReport[]): Promise<void> {
    this.making.set('planning the waxes …');
    const { sections } = await firstValueFrom(
      this.api.get<{ sections: readonly { id: string; version: number }[] }>(`/works/${workId}/models`),
    );
    for (const [i, part] of parts.entries()) {
      const { id, version } = sections[i]!;
      const add = {
        ...{ id: newId(), kind: 'model', waxKg: null, plusMinusKg: null, curve: part.curve },
        ...{ areaCm2: part.areaCm2, says: 'its part of the model', modelId: this.desk.kept()?.id ?? null },
      };
      await firstValueFrom(this.api.put(`/sections/${id}/estimates`, { version, add, putAway: null }, newKey()));
    }
  }
}

function save(bytes: Uint8Array, name: string, type: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([bytes as BlobPart], { type }));
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

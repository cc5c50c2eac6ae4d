import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { ModelPlace, WayUp } from '@kalvet/core';
import type { Traps } from '@kalvet/core/weigh/index';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { May } from '../shared/may.directive';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { ModelDesk } from './model-desk';

/** A vent and a gate that nobody moved are called by what the model says. */
const NONE = '';

/** Which way up it is poured: how ways compare, where air is caught and metal comes in, moved by hand. */
@Component({
  selector: 'kv-ways-panel',
  imports: [ButtonModule, InputTextModule, May, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section>
      <h2>Which way up</h2>
      @if (desk.ways().length > 0) {
        <table>
          <thead>
            <tr>
              <th scope="col">Way</th>
              <th scope="col">Air is caught</th>
              <th scope="col">Metal high</th>
              <th scope="col">Low places</th>
            </tr>
          </thead>
          <tbody>
            @for (way of desk.ways(); track $index; let i = $index) {
              <tr>
                <th scope="row">
                  <button
                    type="button"
                    class="kv-link"
                    [class.on]="isChosen(way)"
                    data-test="way"
                    (click)="choose(way)">
                    {{ i === 0 ? 'least air' : 'other ' + i }}
                  </button>
                </th>
                <td>{{ way.traps.length }} {{ way.traps.length === 1 ? 'place' : 'places' }}</td>
                <td>{{ shop.amount(way.heightMm, 'mm', 0) }}</td>
                <td>{{ way.lowest.length }}</td>
              </tr>
            }
          </tbody>
        </table>
      } @else {
        <p class="kv-soft">
          Compares ways to stand it: in each, air is caught at the high places, and wants a vent there.
        </p>
      }
      <button
        pButton
        type="button"
        size="small"
        severity="secondary"
        [outlined]="true"
        data-test="compare-ways"
        [disabled]="!desk.session() || desk.session()!.busy() !== ''"
        (click)="desk.compareWays()">
        {{ desk.ways().length > 0 ? 'Compare again' : 'Compare ways up' }}
      </button>
    </section>
    @if (desk.way(); as way) {
      <section>
        <h2>Vents and gates</h2>
        <p class="kv-soft">
          Poured {{ shop.amount(way.heightMm, 'mm', 0) }} high. Choose a place and tap the model to move it.
        </p>
        @for (row of rows(); track row.pin) {
          <div class="row">
            <button
              type="button"
              class="kv-link"
              [class.on]="desk.chosenPin() === row.pin"
              (click)="desk.chosenPin.set(row.pin)">
              {{ row.name }}
            </button>
            <input
              pInputText
              [value]="row.place.words"
              (change)="describe(row.pin, $any($event.target).value)"
              maxlength="300"
              [attr.aria-label]="'What ' + row.name + ' is for'"
              placeholder="what for" />
            <button
              type="button"
              class="kv-link"
              (click)="drop(row.pin)"
              [attr.aria-label]="'Take ' + row.name + ' off'">
              off
            </button>
          </div>
        }
        <p class="row">
          Tap the model for
          <button type="button" class="kv-link" [class.on]="adding() === 'vent'" (click)="addingChange.emit('vent')">
            a further vent
          </button>
          <button type="button" class="kv-link" [class.on]="adding() === 'gate'" (click)="addingChange.emit('gate')">
            a further gate
          </button>
        </p>
        @if (sectionWayIs() === 'kept') {
          <p class="kv-soft">It is kept with {{ desk.section()?.name }}.</p>
        } @else if (desk.section(); as section) {
          <div class="row" *kvMay="'set way up'">
            <button pButton type="button" data-test="keep-way" [disabled]="sending.busy()" (click)="keep()">
              Keep for {{ section.name }}
            </button>
            <span class="kv-soft">for the sprue bench and the pour</span>
          </div>
        }
        <kv-refusal [submission]="sending" (reload)="changed.emit(); sending.reset()" />
      </section>
    }
  `,
  styleUrl: './panel.css',
})
export class WaysPanel {
  protected readonly desk = inject(ModelDesk);
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly adding = input<'vent' | 'gate' | null>(null);
  readonly addingChange = output<'vent' | 'gate'>();
  readonly changed = output();

  protected readonly rows = computed(() => {
    const way = this.desk.way();
    if (!way) return [];
    const named = (places: readonly ModelPlace[], name: string, from: number) =>
      places.map((place, i) => ({ place, name: `${name} ${i + 1}`, pin: from + i }));
    return [...named(way.vents, 'Vent', 0), ...named(way.gates, 'Gate', way.vents.length)];
  });
  protected readonly sectionWayIs = computed(() => {
    const kept = this.desk.section()?.wayUp;
    return kept && JSON.stringify(kept) === JSON.stringify(this.desk.way()) ? 'kept' : 'open';
  });

  protected isChosen({ up }: Traps): boolean {
    const chosen = this.desk.way()?.up;
    return chosen !== undefined && up.every((each, k) => Math.abs(each - chosen[k]!) < 1e-6);
  }

  /** The highest place is where the last air leaves; the lowest ones are where metal comes in quietly. */
  protected choose({ up, traps, lowest, heightMm }: Traps): void {
    const place = ({ x, y, z }: { x: number; y: number; z: number }, words: string): ModelPlace => ({ x, y, z, words });
    this.desk.way.set({
      up: [up[0], up[1], up[2]],
      heightMm,
      vents: traps.map((trap) => place(trap, `stands out by ${this.shop.amount(trap.prominenceMm, 'mm', 0)}`)),
      gates: lowest.slice(0, 4).map((low) => place(low, NONE)),
    });
    this.desk.chosenPin.set(null);
  }

  /** Changes the place of a pin: vents first, then gates. */
  private change(pin: number, to: (place: ModelPlace) => ModelPlace | null): void {
    const way = this.desk.way();
    if (!way) return;
    const apply = (places: readonly ModelPlace[], from: number) =>
      places.flatMap((place, i) => (from + i === pin ? (to(place) ?? []) : place));
    const next: WayUp = { ...way, vents: apply(way.vents, 0), gates: apply(way.gates, way.vents.length) };
    this.desk.way.set(next);
  }

  protected describe(pin: number, words: string): void {
    this.change(pin, (place) => ({ ...place, words }));
  }

  protected drop(pin: number): void {
    this.change(pin, () => null);
    this.desk.chosenPin.set(null);
  }

  protected keep(): void {
    const section = this.desk.section();
    if (!section) return;
    this.sending.send(
      `/sections/${section.id}/way-up`,
      { version: section.version, wayUp: this.desk.way() },
      () => this.changed.emit(),
      { method: 'put', said: `Kept with ${section.name}` },
    );
  }
}

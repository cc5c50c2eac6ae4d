import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { ButtonModule } from 'primeng/button';
import { ShopService } from '../shared/shop.service';
import { ModelDesk } from './model-desk';

/** Where the metal is thin, thick, or shut in: what runs short, what draws, what does not dry. */
@Component({
  selector: 'kv-metal-panel',
  imports: [ButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section>
      <h2>Metal at a wall of {{ shop.amount(desk.wallMm(), 'mm') }}</h2>
      @if (desk.thickness(); as found) {
        <p class="legend">
          <span><i class="swatch thin"></i>under {{ shop.amount(found.thinMm, 'mm', 1) }}: may run short</span>
          <span><i class="swatch wall"></i>the wall</span>
          <span
            ><i class="swatch thick"></i>over {{ shop.amount(found.thickMm, 'mm', 1) }}, solid: freezes last,
            draws</span
          >
        </p>
        @for (group of groups(); track group.title) {
          <h3>{{ group.title }}</h3>
          <ul>
            @for (place of group.places; track $index; let i = $index) {
              <li>
                <button
                  type="button"
                  class="kv-link place"
                  [class.on]="desk.chosenPin() === group.from + i"
                  (click)="desk.chosenPin.set(group.from + i)">
                  <b>{{ group.letter }}{{ i + 1 }}</b> {{ place }}
                </button>
              </li>
            } @empty {
              <li class="kv-soft">{{ group.none }}</li>
            }
          </ul>
        }
      } @else {
        <p class="kv-soft">Measures how thick the metal is behind every place of the surface once it is cast hollow.</p>
        <button
          pButton
          type="button"
          severity="secondary"
          [outlined]="true"
          data-test="thickness"
          [disabled]="!desk.session() || desk.session()!.busy() !== ''"
          (click)="desk.mapThickness()">
          Measure the metal
        </button>
      }
    </section>
  `,
  styleUrl: './panel.css',
  styles: `
    .thin {
      background: var(--kv-alert);
    }
    .wall {
      background: #cbb79b;
    }
    .thick {
      background: #4a3d78;
    }
  `,
})
export class MetalPanel {
  protected readonly desk = inject(ModelDesk);
  protected readonly shop = inject(ShopService);
  protected readonly groups = computed(() => {
    const found = this.desk.thickness();
    if (!found) return [];
    const { thin, thick, windows } = found;
    const mm = (value: number) => this.shop.amount(value, 'mm', 1);
    const area = (mm2: number) => this.shop.amount(mm2 / 100, 'cm2', mm2 < 1000 ? 1 : 0);
    return [
      {
        title: 'Thin: gate there, or make the wax thicker',
        letter: 't',
        from: 0,
        none: 'nowhere',
        places: thin.map((place) => `${mm(place.mm)} on ${area(place.areaMm2)}`),
      },
      {
        title: 'Solid: feed it, or core it',
        letter: 'D',
        from: thin.length,
        none: 'nowhere',
        places: thick.map((place) => `${mm(place.mm)} on ${area(place.areaMm2)}`),
      },
      {
        title: 'Windows, where the inside does not dry',
        letter: 'W',
        from: thin.length + thick.length,
        none: 'none is needed',
        places: windows.map(({ reachesMm }) =>
          reachesMm === null
            ? 'it is closed all round: its inside cannot dry'
            : `${this.shop.amount(reachesMm, 'mm', 0)} of hollow from the next opening`,
        ),
      },
    ];
  });
}

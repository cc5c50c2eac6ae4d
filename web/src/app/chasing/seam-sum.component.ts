import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { DEFAULT_ALLOY_ID, alloyOf, fillerKg, joinMinutes } from '@kalvet/core';
import { AmountPipe } from '../shared/words.pipe';
import { FigureText } from '../shared/figure.component';

/** What a seam asks for before it is welded: its length, the hours and the filler it usually takes. */
@Component({
  selector: 'kv-seam-sum',
  imports: [AmountPipe, FigureText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p role="status">
      @if (filler(); as figure) {
        Seam {{ seamM()! | amount: 'm' : 2 }}: about {{ hours() }} h and
        <kv-figure [figure]="figure" [decimals]="2" /> of filler
      } @else {
        The seam’s length is not given on the work; about {{ hours() }} h
      }
    </p>
  `,
  styles: `
    p {
      margin: 6px 0 10px;
      padding: 8px 10px;
      background: var(--kv-plaster);
    }
  `,
})
export class SeamSum {
  readonly seamM = input.required<number | null>();
  readonly alloyId = input.required<string | null>();
  protected readonly hours = computed(() => (joinMinutes(this.seamM()) / 60).toFixed(1));
  protected readonly filler = computed(() => {
    const seam = this.seamM();
    return seam === null ? undefined : fillerKg(seam, alloyOf(this.alloyId() ?? DEFAULT_ALLOY_ID).densityGPerCm3);
  });
}

import { ChangeDetectionStrategy, Component } from '@angular/core';
import type { DiscPiece } from '../../shared/disc.component';
import { Disc } from '../../shared/disc.component';

const piece = (rest: Partial<DiscPiece>): DiscPiece => ({
  series: 'edition',
  number: 3,
  state: 'in work',
  late: false,
  behind: 'shell',
  sections: [{ room: 'shell', recast: false }],
  ...rest,
});
const [SHELL, POURED] = ['shell', 'pour'] as const;

/** What the discs on the Floor say, and the shop's words that a newcomer asks about. */
@Component({
  selector: 'kv-floor-legend',
  imports: [Disc],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>What a disc says</h2>
    <ul>
      @for (line of discs; track line.says) {
        <li><kv-disc [piece]="line.piece" [size]="34" /> {{ line.says }}</li>
      }
    </ul>
    <h2>Words</h2>
    <dl>
      @for (word of words; track word.word) {
        <dt>{{ word.word }}</dt>
        <dd>{{ word.means }}</dd>
      }
    </dl>
  `,
  styles: `
    :host {
      display: block;
      width: min(430px, 86vw);
    }
    li {
      display: flex;
      gap: 12px;
      align-items: center;
      min-height: 40px;
    }
    dl {
      display: grid;
      grid-template-columns: 84px 1fr;
      gap: 4px 12px;
      margin: 4px 0 0;
    }
    dt {
      font-weight: 600;
    }
    dd {
      margin: 0;
    }
    h2 + ul {
      margin-bottom: 12px;
    }
  `,
})
export class FloorLegend {
  protected readonly discs = [
    { piece: piece({}), says: 'Number 3 of its edition, in the room of its colour and column' },
    {
      piece: piece({
        sections: [
          { room: POURED, recast: false },
          { room: SHELL, recast: false },
          { room: SHELL, recast: false },
        ],
      }),
      says: 'Cast in three sections: one is ahead. The disc stands with the last one, a line reaches to the first',
    },
    { piece: piece({ sections: [{ room: SHELL, recast: true }] }), says: 'A section is being cast again' },
    { piece: piece({ late: true }), says: 'Will be out after its due date' },
    { piece: piece({ state: 'hold' }), says: 'On hold, until somebody lets it go on' },
  ];
  protected readonly words = [
    { word: 'Pull', means: 'a wax taken from the rubber mould; a mould is good for so many' },
    { word: 'Tree', means: 'one wax or several on a cup with their runners and vents, dipped and poured as one' },
    { word: 'Load', means: 'the shells that are fired in the kiln together' },
    { word: 'Heat', means: 'one melting of the furnace, poured into one tree after the other' },
    { word: 'Charge', means: 'what goes into the crucible for a heat: ingot and returns' },
    { word: 'Returns', means: 'cut-off cups and runners, melted again' },
  ];
}

import { LoadPanel } from './burnout/load-panel.component';
import { DefectTable } from './chasing/defect-table.component';
import { OpenItems } from './chasing/open-items.component';
import { PerCastControl } from './chasing/per-cast-control.component';
import { SeamSum } from './chasing/seam-sum.component';
import { WhatIfBox } from './plan/what-if.component';
import { HeatPanel } from './pour/heat-panel.component';
import type { StepParts } from './route/parts';
import { ChoiceControl, NumberControl, TextControl, YesControl } from './route/plain-controls';
import type { ReadingEntry } from './route/reading-control';
import { BarsControl } from './sprue/bars-control.component';
import { CastsControl } from './sprue/casts-control.component';
import { CupControl } from './sprue/cup-control.component';
import { TreeSum } from './sprue/tree-sum.component';
import { MouldControl } from './wax/mould-control.component';
import { WaxScale } from './wax/wax-scale.component';

const numberOr = (value: unknown): number | null => (typeof value === 'number' && value > 0 ? value : null);

/** Under a label, two in a row. */
const onALine = (component: ReadingEntry['component']): ReadingEntry => ({ component, labelled: true, wide: false });
/** With words of its own, over the whole width. */
const byItself = (component: ReadingEntry['component']): ReadingEntry => ({ component, labelled: false, wide: true });

/** The one list in which a room enters what it shows while its steps are recorded. */
export const PARTS: StepParts = {
  readings: {
    number: onALine(NumberControl),
    choice: { ...onALine(ChoiceControl), wide: true },
    text: { ...onALine(TextControl), wide: true },
    mould: { ...onALine(MouldControl), wide: true },
    casts: { ...onALine(CastsControl), wide: true },
    yes: byItself(YesControl),
    bars: byItself(BarsControl),
    cup: { ...onALine(CupControl), wide: true },
    perCast: byItself(PerCastControl),
    defects: byItself(DefectTable),
    // Bare codes stand in old records alone; they are read, never asked for.
    codes: onALine(TextControl),
  },
  beside: [
    {
      when: ({ kind }) => kind.weighs === 'wax',
      component: WaxScale,
      inputs: ({ form, draft, settings }) => ({
        planned: form.expectedWaxKg,
        band: settings.waxBand,
        earlier: form.earlierWaxes,
        kg: numberOr(draft['waxKg']),
      }),
    },
    {
      when: ({ kind }) => kind.joinsTree === true,
      component: TreeSum,
      inputs: ({ form, draft }) => ({ form, draft }),
    },
    {
      when: ({ kind }) => kind.joinsSection === true,
      component: SeamSum,
      inputs: ({ form }) => ({ seamM: form.seamM, alloyId: form.alloyId }),
    },
    {
      when: ({ loses }) => loses,
      component: WhatIfBox,
      inputs: ({ form, outcome }) => ({ stepId: form.step.id, outcome }),
    },
  ],
  panels: { load: LoadPanel, heat: HeatPanel },
  onPiece: [
    {
      title: 'To be put back or taken out',
      component: OpenItems,
      inputs: ({ openItems, lanes }) => ({ items: openItems, lanes }),
    },
  ],
};

import { chargeKiln } from '../burnout/charge-kiln.step.ts';
import { dewax } from '../burnout/dewax.step.ts';
import { drawBlock } from '../burnout/draw-block.step.ts';
import { dry } from '../burnout/dry.step.ts';
import { fireBlock } from '../burnout/fire-block.step.ts';
import { fire } from '../burnout/fire.step.ts';
import { lookDewaxed } from '../burnout/look-dewaxed.step.ts';
import { leakTest } from '../burnout/leak-test.step.ts';
import { patch } from '../burnout/patch.step.ts';
import { refire } from '../burnout/refire.step.ts';
import { chaseMetal } from '../chasing/chase-metal.step.ts';
import { inspectRaw } from '../chasing/inspect-raw.step.ts';
import { inspect } from '../chasing/inspect.step.ts';
import { joinSection } from '../chasing/join-section.step.ts';
import { knockOut } from '../chasing/knock-out.step.ts';
import { weld } from '../chasing/weld.step.ts';
import { makeMould } from '../mould/make-mould.step.ts';
import { repairMould } from '../mould/repair-mould.step.ts';
import { deliver } from '../out/deliver.step.ts';

import { finalInspection } from '../patina/final-inspection.step.ts';
import { patina } from '../patina/patina.step.ts';
import { waxBuff } from '../patina/wax-buff.step.ts';
import { earlyLook } from '../pour/early-look.step.ts';
import { melt } from '../pour/melt.step.ts';
import { pour } from '../pour/pour.step.ts';
import { kindFinder } from '../route/shop-index.ts';
import type { StepKind } from '../route/step-kind.ts';
import { coat } from '../shell/coat.step.ts';
import { invest } from '../shell/invest.step.ts';
import { joinTree } from '../sprue/join-tree.step.ts';
import { approveWax } from '../wax/approve-wax.step.ts';
import { chaseWax } from '../wax/chase-wax.step.ts';
import { modelWax } from '../wax/model-wax.step.ts';
import { pull } from '../wax/pull.step.ts';
import { approval } from '../work/approval.step.ts';
import { elsewhere } from '../work/elsewhere.step.ts';
import { rework } from '../work/rework.step.ts';

/**
 * Every kind of step that the rooms bring, in the order of the work: the one list that a new kind is entered in. The order
 * within a carrier's own steps is the order here.
 */
export const KINDS: readonly StepKind[] = [
  makeMould,
  repairMould,
  pull,
  modelWax,
  chaseWax,
  approveWax,
  joinTree,
  coat,
  invest,
  dewax,
  lookDewaxed,
  fire,
  fireBlock,
  leakTest,
  patch,
  refire,
  dry,
  drawBlock,
  pour,
  earlyLook,
  knockOut,
  inspect,
  weld,
  joinSection,
  chaseMetal,
  patina,
  waxBuff,
  finalInspection,
  inspectRaw,
  deliver,
  rework,
  approval,
  elsewhere,
  chargeKiln,
  melt,
];

/** The kind of a code. @throws RangeError where no room knows it */
export const kindOf = kindFinder({ kinds: KINDS });

import { argumentsOf, numberIn } from './arguments.ts';
import { numbersIn } from './directions.ts';
import { ask, modelFile, printJson, printRows, unitIn } from './model.ts';

const OPTIONS = {
  unit: { type: 'string' },
  scale: { type: 'string' },
  wall: { type: 'string' },
  opening: { type: 'string', multiple: true },
  across: { type: 'string' },
  json: { type: 'boolean' },
} as const;

const USUAL_WALL_MM = 5;

/** `kalvet thickness`: where the metal is thin or solid once a model is cast hollow, and where its inside does not dry. */
export async function thickness(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, OPTIONS);
  const unit = unitIn(values.unit);
  const scale = numberIn('scale', values.scale, { above: true });
  const acrossMm = numberIn('across', values.across, { above: true });
  const openings = (values.opening ?? []).map((text) => {
    const [x, y, z] = numbersIn('opening', text, 3, '0,0,0: a place in mm');
    return [x!, y!, z!] as const;
  });
  const found = await ask('thickness', {
    ...(await modelFile('thickness', positionals)),
    ...(unit === undefined ? {} : { unit }),
    ...(scale === undefined ? {} : { scale }),
    ...(acrossMm === undefined ? {} : { acrossMm }),
    wallMm: numberIn('wall', values.wall, { above: true }) ?? USUAL_WALL_MM,
    openings,
  });
  const { mesh: _, bodyMm: __, metalMm: ___, ...told } = found;
  if (values.json) {
    printJson(told);
    return 0;
  }
  const row = (name: string, { x, y, z }: { x: number; y: number; z: number }, ...rest: string[]) => [
    name,
    x.toFixed(1),
    y.toFixed(1),
    z.toFixed(1),
    ...rest,
  ];
  const { thin, thick, windows, thinMm, thickMm } = told;
  process.stdout.write(
    `thin is under ${thinMm.toFixed(1)} mm, solid over ${thickMm.toFixed(1)} mm: ${thin.length} thin, ${thick.length} solid, ${windows.length} windows wanted\n`,
  );
  const rows = [
    ...thin.map((each) => row('thin', each, `${each.mm.toFixed(1)} mm`, `${(each.areaMm2 / 100).toFixed(1)} cm²`)),
    ...thick.map((each) => row('solid', each, `${each.mm.toFixed(1)} mm`, `${(each.areaMm2 / 100).toFixed(1)} cm²`)),
    ...windows.map((each) =>
      row('window', each, each.reachesMm === null ? 'closed' : `${each.reachesMm.toFixed(0)} mm`, ''),
    ),
  ];
  if (rows.length > 0) printRows([['', 'x mm', 'y mm', 'z mm', 'metal', 'on'], ...rows]);
  return 0;
}

// A trial on the board can be taken back as though it had never been.
import { compile } from '../compile.ts';
import { oddFoundry } from '../../testing/odd-foundry.ts';
import { Board } from './board.ts';
import { chance } from './chance.ts';
import { Inserter } from './inserter.ts';
import { urgencyOf } from './priority.ts';

describe('the board', () => {
  for (const seed of [3, 8])
    it(`stands after a trial that was taken back as it stood before (shop ${seed})`, () => {
      const compiled = compile(oddFoundry(seed));
      const urgency = urgencyOf(compiled);
      const board = new Board(compiled);
      const inserter = new Inserter(compiled, board, urgency);
      const manner = { order: urgency.latest, thrift: 1 };
      expect(inserter.putAll([...compiled.tasks.keys()], manner)).toBeTrue();
      const looks = () => ({
        cost: board.reckon(),
        starts: [...board.starts],
        // Loads that start together on two machines may stand in any order.
        loads: board.loads.map((book) =>
          book?.list.map(({ start, units, members }) => `${start} ${units} ${members.size}`).sort(),
        ),
        free: compiled.tasks.flatMap(({ takes, place }) =>
          takes.map(({ resource }) =>
            [0.5, 1, 2].map((units) =>
              board.profiles[resource]!.blockedUntil(board.starts[place]! - 30, board.ends[place]! + 30, units),
            ),
          ),
        ),
      });
      const before = looks();
      const random = chance(seed);
      let changed = 0;
      for (let trial = 0; trial < 60; trial++) {
        board.begin();
        const roots = compiled.tasks.filter(() => random() < 0.1).map(({ place }) => place);
        const out = inserter.takeOut(roots)!;
        expect(out.length).toBeGreaterThanOrEqual(roots.length);
        const order = urgency.latest.map((each) => each + random() * 50_000);
        inserter.putAll(out, { order, thrift: trial % 3 });
        if (board.reckon() !== before.cost) changed++;
        board.takeBack();
        expect(looks()).toEqual(before);
      }
      expect(changed).toBeGreaterThan(20);
    });
});

import { link, problem, task } from '../testing/plan-parts.ts';
import { planDocument } from './plan.ts';
import { validateProblem } from './validate.ts';

const paths = (document: unknown) => (validateProblem(document).messages ?? []).map(({ path }) => path);

describe('a plan problem as a document', () => {
  it('is taken when it is right', () => {
    expect(validateProblem(problem({ tasks: [task('a', 5)] })).problem).toBeDefined();
  });

  it('is refused with the path of every fault', () => {
    const wrong = {
      ...problem(),
      start: '2027-03-01T08:00:00',
      colour: 'red',
      resources: [{ id: 'kiln', capacity: 0, calendar: 'nowhere' }],
      tasks: [
        { id: 'a', job: 'J', duration: -1, spans: 'jumping', needs: [] },
        { id: 'a', job: 'J', duration: 1.5, spans: 'pausing' },
      ],
    };
    expect(paths(wrong)).toEqual([
      'start',
      'resources[0].capacity',
      'tasks[0].duration',
      'tasks[0].spans',
      'tasks[1].duration',
      'tasks[1].needs',
      'colour',
    ]);
  });

  it('is refused for what nothing has: ids there twice, unknown, keys where nothing works in loads', () => {
    const wrong = problem({
      tasks: [task('a', 5, { job: 'K', needs: [{ resource: 'bench', key: 'x' }, { resource: 'oven' }] }), task('a', 5)],
      links: [link('a', 'z'), link('a', 'a', 10, 5)],
    });
    expect(paths(wrong)).toEqual([
      'tasks[1].id',
      'tasks[0].job',
      'tasks[0].needs[0].key',
      'tasks[0].needs[1].resource',
      'links[0].to',
      'links[1]',
    ]);
  });

  it('is refused for hours and days that do not exist', () => {
    const calendars = [
      {
        id: 'c',
        weekly: [
          { day: 8, from: '08:00', to: '12:00' },
          { day: 1, from: '12:00', to: '08:00' },
          { day: 1, from: '24:00', to: '24:00' },
          { day: 1, from: '7:00', to: '08:61' },
        ],
        closed: ['2027-02-30'],
      },
    ];
    expect(paths(problem({ calendars, resources: [] }))).toEqual([
      'calendars[0].weekly[0].day',
      'calendars[0].weekly[1]',
      'calendars[0].weekly[2]',
      'calendars[0].weekly[3].from',
      'calendars[0].weekly[3].to',
      'calendars[0].closed[0]',
    ]);
  });

  it('is refused where links run in a circle, which is named, also a very long one', () => {
    const small = problem({
      tasks: ['a', 'b', 'c'].map((id) => task(id, 5)),
      links: [link('a', 'b'), link('b', 'c'), link('c', 'a')],
    });
    const [message] = validateProblem(small).messages!;
    expect(message!.ids).toEqual(['a', 'b', 'c']);
    expect(message!.text).toContain('a → b → c → a');
    const many = Array.from({ length: 30_000 }, (_, i) => task(`t${i}`, 1));
    const circle = problem({ tasks: many, links: many.map(({ id }, i) => link(id, `t${(i + 1) % many.length}`)) });
    expect(validateProblem(circle).messages!.length).toBe(1);
  });

  it('may say what was told before and what promises are made from, in the right ranges', () => {
    const given = problem({ tasks: [task('a', 5, { room: 'wax', spread: 0.3, loss: 0.05 })] });
    const previous = { starts: [{ id: 'a', start: -30, load: 'x' }], weight: 0.5, frozen: 1440 };
    expect(validateProblem({ ...given, previous }).messages).toBeUndefined();
    const paths = (document: unknown) => validateProblem(document).messages!.map(({ path }) => path);
    expect(paths({ ...given, tasks: [{ ...given.tasks[0], room: '', spread: -1, loss: 1 }] })).toEqual([
      'tasks[0].room',
      'tasks[0].spread',
      'tasks[0].loss',
    ]);
    expect(paths({ ...given, previous: { starts: [{ id: 'a' }], weight: -1, frozen: 1.5, colour: 1 } })).toEqual([
      'previous.starts[0].start',
      'previous.weight',
      'previous.frozen',
      'previous.colour',
    ]);
    const twice = { starts: ['a', 'a', 'b'].map((id) => ({ id, start: 0 })) };
    expect(paths({ ...given, previous: twice })).toEqual(['previous.starts[1].id', 'previous.starts[2].id']);
  });

  it('never throws, whatever it is', () => {
    for (const document of [
      null,
      5,
      'x',
      [],
      {},
      { tasks: {} },
      { ...problem(), tasks: [null] },
      { __proto__: null },
    ]) {
      const { status, tasks, messages } = planDocument(document);
      expect(status).toBe('invalid');
      expect(tasks).toEqual([]);
      expect(messages.length).toBeGreaterThan(0);
    }
  });
});

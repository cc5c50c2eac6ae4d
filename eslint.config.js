// Holds which way things may point: web → core, server → core; and core's floors, each importing only from lower ones.
import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

/** The rooms of the shop, in the order of the work. */
const ROOMS = [
  'work',
  'mould',
  'wax',
  'sprue',
  'shell',
  'burnout',
  'pour',
  'chasing',
  'patina',
  'out',
  'people',
  'instruments',
  'files',
];

/** Core's floors from the ground up: what lies on one may import only from those below it, never sideways. */
const FLOORS = [
  { name: 'units', files: ['units'] },
  { name: 'records', files: ['records'] },
  { name: 'materials and mesh', files: ['materials', 'mesh'] },
  { name: 'a room’s arithmetic', files: ROOMS },
  { name: 'route', files: ['route'] },
  { name: 'a room’s kinds of steps', files: ROOMS.map((room) => `${room}/*.step`) },
  { name: 'shop', files: ['shop', 'money', 'stores', 'weigh'] },
  { name: 'quality', files: ['quality'] },
  { name: 'plan', files: ['plan'] },
];
const KINDS_FLOOR = 5;

/** What a file deep in `core/src` may call another folder by: any number of steps up. */
const under = (folders) => folders.map((folder) => `**/../${folder}/**`);

const PURE = {
  group: ['node:*', 'express', 'sequelize', '@angular/*', 'rxjs', '**/index.ts'],
  message: 'core is pure.',
};
const pureRules = (patterns) => ({
  'no-restricted-imports': ['error', { patterns: [...patterns.filter(({ group }) => group.length > 0), PURE] }],
  'no-restricted-globals': ['error', 'Date', 'Intl', 'window', 'document', 'process', 'fetch', 'setTimeout'],
  'no-restricted-properties': [
    'error',
    { object: 'Math', property: 'random', message: 'core has no unseeded random.' },
  ],
});

const floorRules = FLOORS.flatMap(({ name, files }, level) =>
  files.map((own) => {
    const folder = own.split('/')[0];
    const isKind = level === KINDS_FLOOR;
    const above = FLOORS.filter((_, other) => other >= level && other !== KINDS_FLOOR)
      .flatMap((floor) => floor.files)
      .filter((other) => other !== folder);
    const patterns = [
      {
        group: under(isKind ? [...above, ...ROOMS.filter((room) => room !== folder)] : above),
        message: `${name} may import only from lower floors of core.`,
      },
      // A kind of step is known by its room and by the list of kinds alone.
      ...(level < KINDS_FLOOR
        ? [{ group: ['**/*.step.ts'], message: `${name} knows kinds of steps by their properties only.` }]
        : []),
    ];
    return {
      files: [isKind ? `core/src/${folder}/**/*.step.ts` : `core/src/${folder}/**/*.ts`],
      ignores: isKind ? [] : [`core/src/${folder}/**/*.step.ts`],
      rules: pureRules(patterns),
    };
  }),
);

/** Times are printed by the shop's clock: no other way to word one. */
const NO_OTHER_CLOCK = [
  {
    selector:
      'CallExpression[callee.property.name=/^(toLocale(Date|Time)?String|toDateString|toTimeString|toUTCString|toISOString)$/]',
    message: 'print and make instants with the shop’s clock (core/units/shop-clock, fromMs).',
  },
  {
    selector: "MemberExpression[object.name='Intl'][property.name='DateTimeFormat']",
    message: 'print times with the shop’s clock.',
  },
  {
    selector: 'CallExpression[callee.name=/^(timeFormat|utcFormat)$/] > Literal[value=/%[HIp]/]',
    message: 'hours are printed by the shop’s clock.',
  },
];

/** A kind of step is asked for its properties; its code is nobody's business outside its room. */
const KIND_CODES =
  'dewax|look-dewaxed|make-mould|repair-mould|pull|model-wax|chase-wax|approve-wax|join-tree|coat|invest|fire|fire-block|leak-test|patch|refire|dry|pour|knock-out|inspect|weld|join-section|chase-metal|patina|wax-buff|final-inspection|inspect-raw|deliver|rework|approval|elsewhere|charge-kiln|melt';
const KIND_LITERAL = `Literal[value=/^(${KIND_CODES})$/]`;
const NO_KIND_STRINGS = [
  `BinaryExpression[left.property.name='kind'] > ${KIND_LITERAL}`,
  `BinaryExpression[left.name='kind'] > ${KIND_LITERAL}`,
  `BinaryExpression[right.property.name='kind'] > ${KIND_LITERAL}`,
  `SwitchStatement[discriminant.property.name='kind'] > SwitchCase > ${KIND_LITERAL}`,
  `SwitchStatement[discriminant.name='kind'] > SwitchCase > ${KIND_LITERAL}`,
  `CallExpression[callee.property.name='includes'][arguments.0.property.name='kind'] ArrayExpression > ${KIND_LITERAL}`,
  `CallExpression[callee.property.name='includes'][arguments.0.name='kind'] ArrayExpression > ${KIND_LITERAL}`,
  `CallExpression[callee.name='kindOf'] > ${KIND_LITERAL}`,
].map((selector) => ({ selector, message: 'ask a kind of step for its properties, not for its code.' }));
const KIND_FREE = ['web/src/**/*.ts', 'server/src/**/*.ts', 'cli/src/**/*.ts', 'core/src/**/*.ts'];

/** Folders of an application whose files may import each other's only as `allowed` says. */
const roomRules = (root, rooms, allowed, message) =>
  rooms.map((room) => ({
    files: [`${root}/${room}/**/*.ts`],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            ...allowed.always,
            {
              group: rooms
                .filter((other) => other !== room)
                .flatMap((other) => allowed.closed.map((what) => `**/../${other}/${what}`)),
              message,
            },
          ],
        },
      ],
    },
  }));

const WEB_ALONE = {
  group: ['**/server/**', '@kalvet/server*', 'express', 'sequelize', 'joi', 'node:*'],
  message: 'web reads nothing of server.',
};
const SERVER_ALONE = { group: ['**/web/**', '@angular/*', '**/demo/**'], message: 'server → core only.' };

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.data/**', 'web/.angular/**', '**/.test-*/**'] },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.recommended],
    rules: {
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'separate-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', ignoreRestSiblings: true }],
      eqeqeq: 'error',
    },
  },
  ...floorRules,
  {
    files: KIND_FREE,
    ignores: ['**/*.spec.ts', '**/testing/**', ...ROOMS.map((room) => `core/src/${room}/**`)],
    rules: { 'no-restricted-syntax': ['error', ...NO_KIND_STRINGS] },
  },
  {
    files: ['core/src/**/*.spec.ts', 'core/src/testing/**'],
    rules: { 'no-restricted-globals': 'off', 'no-restricted-imports': 'off' },
  },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'kv', style: 'kebab-case' }],
      '@angular-eslint/directive-selector': ['error', { type: 'attribute', prefix: 'kv', style: 'camelCase' }],
      '@typescript-eslint/consistent-type-imports': 'off',
      'no-restricted-imports': ['error', { patterns: [WEB_ALONE] }],
    },
  },
  {
    files: ['web/src/**/*.ts'],
    ignores: ['**/*.spec.ts', 'web/src/app/testing/**', 'web/src/app/shared/time.ts'],
    rules: { 'no-restricted-syntax': ['error', ...NO_KIND_STRINGS, ...NO_OTHER_CLOCK] },
  },
  // A screen's room uses what is shared, the mechanics of the route and core; never another room's components.
  ...roomRules(
    'web/src/app',
    ['work', 'plan', 'shell', 'burnout', 'pour', 'chasing', 'wax', 'sprue', 'weigh', 'stores', 'instruments', 'people'],
    { always: [WEB_ALONE], closed: ['**'] },
    'a room of the screens uses shared, route and core, never another room’s components.',
  ),
  {
    files: ['web/src/app/shared/**/*.ts', 'web/src/app/route/**/*.ts', 'web/src/app/files/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            WEB_ALONE,
            {
              group: under([
                'work',
                'plan',
                'shell',
                'burnout',
                'pour',
                'chasing',
                'wax',
                'sprue',
                'weigh',
                'stores',
                'instruments',
                'people',
              ]),
              message: 'what all rooms use knows none of them: a room enters itself in step-parts.ts.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
  },
  {
    files: ['server/src/**/*.ts'],
    rules: { 'no-restricted-imports': ['error', { patterns: [SERVER_ALONE] }] },
  },
  // A room's page may read what another room's read service answers; its writes use write, shop and core alone.
  ...roomRules(
    'server/src',
    ['work', 'plan', 'shell', 'burnout', 'pour', 'chasing', 'stores', 'instruments', 'weigh'],
    {
      always: [SERVER_ALONE],
      closed: ['*.routes.ts', '!(*-read|*-page|floor|section-weights).service.ts', '*.schema.ts'],
    },
    'a room of the server reads another by its read services; its writes use write, shop and core.',
  ),
  {
    files: ['server/src/write/**/*.ts', 'server/src/shop/**/*.ts', 'server/src/db/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            SERVER_ALONE,
            {
              group: under(['work', 'plan', 'shell', 'burnout', 'pour', 'chasing', 'route', 'http']),
              message: 'what all rooms write with knows none of them.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['server/src/**/*.ts'],
    ignores: ['**/*.spec.ts', 'server/src/testing/**'],
    rules: { 'no-restricted-syntax': ['error', ...NO_KIND_STRINGS, ...NO_OTHER_CLOCK.slice(1)] },
  },
  {
    files: ['cli/src/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [{ group: ['**/web/**', '**/server/**', '@angular/*', '**/demo/**'], message: 'cli → core only.' }],
        },
      ],
    },
  },
  {
    files: ['**/*.spec.ts', 'e2e/**/*.ts'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off' },
  },
);

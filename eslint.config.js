// Holds which way things may point: web → core, server → core; and core's floors, each importing only from lower ones.
import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

const FLOORS = [
  ['units'],
  ['records'],
  ['materials', 'mesh'],
  ['work', 'mould', 'wax', 'sprue', 'shell', 'burnout', 'pour', 'chasing', 'patina', 'out'],
  ['route', 'quality', 'money', 'stores', 'weigh'],
  ['plan'],
];

/** For each core folder: the folders on its own floor and above, which it may not import. */
const floorRules = FLOORS.flatMap((floor, level) =>
  floor.map((room) => {
    const closed = FLOORS.slice(level)
      .flat()
      .filter((other) => other !== room);
    return {
      files: [`core/src/${room}/**/*.ts`],
      rules: {
        'no-restricted-imports': [
          'error',
          {
            patterns: [
              ...(closed.length > 0
                ? [
                    {
                      group: closed.map((other) => `../${other}/*`),
                      message: `core/${room} may import only from lower floors.`,
                    },
                  ]
                : []),
              {
                group: ['node:*', 'express', 'sequelize', '@angular/*', 'rxjs', '**/index.ts'],
                message: 'core is pure.',
              },
            ],
          },
        ],
        'no-restricted-globals': ['error', 'Date', 'window', 'document', 'process', 'fetch', 'setTimeout'],
        'no-restricted-properties': [
          'error',
          { object: 'Math', property: 'random', message: 'core has no unseeded random.' },
        ],
      },
    };
  }),
);

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
    files: ['core/src/**/*.spec.ts', 'core/src/testing/**'],
    rules: { 'no-restricted-globals': 'off' },
  },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'kv', style: 'kebab-case' }],
      '@angular-eslint/directive-selector': ['error', { type: 'attribute', prefix: 'kv', style: 'camelCase' }],
      '@typescript-eslint/consistent-type-imports': 'off',
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/server/**', '@kalvet/server*', 'express', 'sequelize', 'joi', 'node:*'],
              message: 'web reads nothing of server.',
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
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ group: ['**/web/**', '@angular/*', '**/demo/**'], message: 'server → core only.' }] },
      ],
    },
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

import next from 'eslint-config-next';
import tseslint from 'typescript-eslint';

/** Tests are not imported. */
const NO_TESTS = { group: ['**/*.test', '**/*.test.ts'], message: 'Nothing is built on a test.' };

export default tseslint.config(
  { ignores: ['.next/**', 'node_modules/**', '.lantern*/**', 'next-env.d.ts', 'test-results/**'] },
  ...next,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      'no-console': ['error', { allow: ['warn', 'error', 'info'] }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    // The core computes; it never asks what time it is, nor chance.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The instant is always an argument in core.' },
        { object: 'Math', property: 'random', message: 'Chance is always an argument in core.' },
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: 'The instant is always an argument in core.',
        },
      ],
    },
  },
  {
    files: ['src/app/**', 'src/ui/**', 'src/server/**', 'src/data/**'],
    ignores: ['**/*.test.ts', 'src/server/base/clock.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        {
          object: 'Date',
          property: 'now',
          message: 'Ask server/base/clock, so that LANTERN_NOW holds everywhere.',
        },
      ],
    },
  },
  {
    // Nothing is built on a test.
    files: ['src/**'],
    ignores: ['**/*.test.ts', 'src/server/**'],
    rules: { 'no-restricted-imports': ['error', { patterns: [NO_TESTS] }] },
  },
  {
    // What is decided is decided under the lock: the bare lock is for those who hold several courses, or make theirs.
    files: ['src/server/**'],
    ignores: [
      '**/*.test.ts',
      'src/server/act/course/{change,students}.ts',
      'src/server/intake/{intake,beside}.ts',
    ],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [NO_TESTS],
          paths: [
            {
              name: '@/data/write/underLock',
              importNames: ['lockCourse'],
              message: 'Read, decide and write with underLock, or decidedUnderLock.',
            },
          ],
        },
      ],
    },
  },
  { files: ['.dependency-cruiser.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  { files: ['src/cli/**', 'bench/**', 'scripts/**', 'src/demo/**'], rules: { 'no-console': 'off' } },
);

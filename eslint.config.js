import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'

/** Where types are known to the linter: what has a tsconfig of its own. */
const TYPED = ['packages/*/src/**/*.ts', 'apps/*/src/**/*.{ts,vue}', 'apps/*/test/**/*.ts', 'e2e/**/*.ts']
/** Functions here branch more often than a reader follows; each that is cut up leaves the list, none may come. */
const TOO_BRANCHED = [
  'apps/server/src/documents/switch-certificate.ts',
  'packages/core/src/discrete/fixes.ts',
  'packages/core/src/kinds/two-wire/wiring.ts',
  'packages/core/src/trim/diagnose.ts',
  'packages/core/src/wiring/{energise,faults}.ts',
  'packages/drawing/src/switch-drawing.ts',
  'scripts/hostile/{hostile,shapes}.ts',
]
/** Loops over numbers, where a check at each would be what takes the time. */
const MATRICES = [
  'packages/core/src/circuit/{network,solve-circuit}.ts',
  'packages/core/src/fluid/{gas,water-equation}.ts',
]

export default [
  { ignores: ['**/node_modules/', '**/dist/', '.tmp/', 'docs/'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  {
    rules: {
      // TypeScript knows what is defined.
      'no-undef': 'off',
      'no-empty-pattern': 'off',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' },
      ],
      '@typescript-eslint/no-explicit-any': 'error',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      eqeqeq: 'error',
      complexity: ['error', 20],
    },
  },
  { files: TOO_BRANCHED, rules: { complexity: 'off' } },
  {
    files: TYPED,
    ignores: ['apps/server/golden/**'],
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname, extraFileExtensions: ['.vue'] },
    },
    rules: {
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-base-to-string': 'error',
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-for-in-array': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
      '@typescript-eslint/no-unnecessary-type-assertion': 'error',
      '@typescript-eslint/only-throw-error': 'error',
      '@typescript-eslint/restrict-plus-operands': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/*.fixture.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'Date',
        'fetch',
        'performance',
        'setTimeout',
        'setInterval',
      ],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }],
    },
  },
  prettier,
  {
    // After the formatter's rules, which leave the length of texts to us. A drawing's path is one word.
    rules: {
      'max-len': ['error', { code: 120, ignoreUrls: true, ignoreRegExpLiterals: true, ignorePattern: ' :?d="' }],
    },
  },
  {
    // Five things in a row are told apart by their names only. A test's own short hand is read where it stands.
    files: ['**/src/**/*.{ts,vue}', 'demo/*.ts', 'scripts/**/*.{ts,mjs}'],
    ignores: ['**/*.test.ts'],
    rules: { 'max-params': ['error', 4] },
  },
  {
    // What a type cannot say is held to at run time. Places of a matrix are what its loops run over.
    files: ['**/src/**/*.{ts,vue}', 'demo/*.ts'],
    ignores: ['**/*.test.ts', '**/*.fixture.ts', ...MATRICES],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: 'TSNonNullExpression:not([expression.computed=true])', message: 'Write a check, or sure(…).' },
      ],
    },
  },
]

import reactHooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

export default tseslint.config(
  { ignores: ['node_modules/', 'build/', '.react-router/', '.data/', 'test-results/'] },
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    languageOptions: { parserOptions: { projectService: true } },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-console': ['error', { allow: ['log', 'error'] }],
      eqeqeq: 'error',
    },
  },
  // fetch, SQL, sockets, clock and chance stay out of the core: it computes.
  {
    files: ['core/**/*.ts'],
    ignores: ['core/testing/**', '**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'process',
        'fetch',
        'document',
        'window',
        'crypto',
        'setTimeout',
        'setInterval',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random' },
        { object: 'Date', property: 'now' },
      ],
    },
  },
  {
    files: ['core/**', 'server/**', 'app/**'],
    ignores: ['**/*.test.ts', '**/*.spec.ts'],
    rules: { 'no-console': 'error' },
  },
  // The connection may be away when a part of the program is fetched: `lazily` and `untilFetched` ask again.
  {
    files: ['app/**'],
    ignores: ['app/host.ts', 'app/routes/sign-in.tsx', '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            'ImportExpression:not(ArrowFunctionExpression > ImportExpression, ArrowFunctionExpression > CallExpression > MemberExpression > ImportExpression)',
          message: 'Fetch it with untilFetched of app/parts/fetched.',
        },
      ],
    },
  },
  // A deadline that only `AbortSignal.any` knows of is lost when memory is collected: see server/platform/deadline.ts.
  {
    files: ['server/**', 'practice-host/**'],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'AbortSignal', property: 'timeout', message: 'Use deadline of #server/platform.' },
      ],
    },
  },
)

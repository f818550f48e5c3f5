import hooks from 'eslint-plugin-react-hooks';
import regexp from 'eslint-plugin-regexp';
import importSort from 'eslint-plugin-simple-import-sort';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.cache/**', 'demo-data/**', 'test-results/**', 'playwright-report/**', 'docs/**'] },
  ...tseslint.configs.recommended,
  {
    files: ['**/*.ts', '**/*.tsx'],
    // with types, so that a promise nobody waits for is found
    languageOptions: {
      parserOptions: { projectService: { allowDefaultProject: ['apps/web/vite.config.ts'] }, tsconfigRootDir: import.meta.dirname },
    },
    plugins: { 'import-sort': importSort },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/await-thenable': 'error',
      'import-sort/imports': 'error',
      'import-sort/exports': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-console': 'error',
      'max-params': ['error', 3],
      // no function may become more branched than the worst of today; conditions of markup count as well
      complexity: ['error', 28],
    },
  },
  { files: ['**/*.tsx'], rules: { complexity: ['error', 45] } },
  // rows of a table that is read down its columns: names, classes, amounts
  {
    files: ['packages/core/src/statements/shipped/*.ts', 'packages/core/src/**/small-*.ts', 'demo/src/**/*.ts', 'bench/**/*.ts'],
    rules: { 'max-params': ['error', 5] },
  },
  // every expression takes time in proportion to its text, whatever a person or a file puts in
  {
    files: ['packages/**/*.ts', 'apps/**/*.{ts,tsx}', 'demo/**/*.ts'],
    ignores: ['**/*.test.ts'],
    plugins: { regexp },
    rules: { 'regexp/no-super-linear-backtracking': 'error', 'regexp/no-super-linear-move': ['error', { report: 'certain' }] },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'process', 'fetch', 'setTimeout', 'setInterval', 'window', 'document', 'localStorage'].map(
        (entry) => entry,
      ),
      'no-restricted-syntax': [
        'error',
        { selector: "MemberExpression[object.name='Math'][property.name='random']", message: 'The core takes randomness as an argument.' },
        { selector: "NewExpression[callee.name='Date']", message: 'The core takes the clock as an argument.' },
        { selector: "MemberExpression[object.name='Date'][property.name='now']", message: 'The core takes the clock as an argument.' },
        { selector: "NewExpression[callee.name='Function']", message: 'Formulas are parsed, never executed.' },
      ],
    },
  },
  { files: ['apps/web/src/**/*.{ts,tsx}'], plugins: { 'react-hooks': hooks }, rules: { ...hooks.configs.recommended.rules } },
  { files: ['tests/**/*.{ts,tsx}', '**/*.test.ts'], rules: { 'max-params': 'off', 'no-empty-pattern': 'off' } },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' }, languageOptions: { globals: { module: 'writable' } } },
);

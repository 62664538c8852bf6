import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** Every file begins by saying what it is. */
const headComment = {
  create: (context) => ({
    Program(node) {
      const [first] = context.sourceCode.getAllComments();
      if (!first || first.range[0] > 0) context.report({ node, message: 'Say in a comment at the head what this file is.' });
    },
  }),
};

export default ts.config(
  {
    ignores: [
      'dist',
      'node_modules',
      '.cache',
      '.data',
      'bench-results',
      'core/picture/soft/kernels/assembly.ts',
      'core/picture/soft/kernels/colour.ts',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      'no-restricted-syntax': ['error', { selector: 'TSEnumDeclaration', message: 'Use a union of strings.' }],
      eqeqeq: 'error',
    },
  },
  {
    // Rules that need types: a promise that nobody waits for loses its error.
    files: [
      'core/**/*.ts',
      'engine/**/*.ts',
      'interface/**/*.{ts,tsx}',
      'server/**/*.ts',
      'standins/**/*.ts',
      'tests/**/*.ts',
      'scripts/**/*.ts',
    ],
    languageOptions: { parserOptions: { projectService: true } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
    },
  },
  {
    files: ['core/**/*.ts'],
    rules: {
      // Core is pure: time and chance come in as arguments.
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'performance',
        'navigator',
        'process',
        'fetch',
        'setTimeout',
        'setInterval',
        'localStorage',
      ],
      'no-restricted-properties': ['error', { object: 'Date', property: 'now' }, { object: 'Math', property: 'random' }],
    },
  },
  {
    files: ['interface/**/*.tsx', 'interface/**/*.ts'],
    plugins: { 'react-hooks': hooks, house: { rules: { 'head-comment': headComment } } },
    rules: { 'house/head-comment': 'error', 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    files: ['scripts/*.mjs', '*.cjs'],
    languageOptions: { globals: { process: 'readonly', console: 'readonly', module: 'writable', URL: 'readonly' } },
  },
);

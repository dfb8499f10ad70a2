import jsdoc from 'eslint-plugin-jsdoc';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['node_modules/', '.next/', '.next-test/', '.embrin/', 'drizzle/', 'public/', 'next-env.d.ts', '.*.ts'] },
  ...tseslint.configs.strict,
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { varsIgnorePattern: '^_', argsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' },
      ],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      'no-console': ['error', { allow: ['error'] }],
      eqeqeq: 'error',
    },
  },
  {
    // Hooks are in the interface alone.
    files: ['src/ui/**/*.{ts,tsx}', 'src/app/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: {
      ...reactHooks.configs.recommended.rules,
      // The virtualiser's functions change from render to render, and are used only where they are made.
      'react-hooks/incompatible-library': 'off',
    },
  },
  {
    // A promise that nobody waits for loses its error; `void` marks one that is meant to run by itself.
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: { '@typescript-eslint/no-floating-promises': 'error' },
  },
  {
    // Every export says what it is.
    files: ['src/**/*.{ts,tsx}', 'worker/**/*.ts'],
    ignores: ['**/*.test.ts', 'src/app/**'],
    plugins: { jsdoc },
    rules: {
      'jsdoc/require-jsdoc': [
        'error',
        {
          publicOnly: { cjs: false, window: false },
          contexts: [
            'FunctionDeclaration',
            'ClassDeclaration',
            'TSInterfaceDeclaration',
            // A type worked out from a value (`typeof`) is described there.
            'TSTypeAliasDeclaration:not(:has(TSTypeQuery))',
            'ExportNamedDeclaration > VariableDeclaration',
          ],
          enableFixer: false,
        },
      ],
    },
  },
  {
    // The computation has no clock, no chance and no way out: all three are passed in.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'fetch',
        'process',
        'window',
        'document',
        'localStorage',
        'setTimeout',
        'setInterval',
        'crypto',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now' },
        { object: 'Math', property: 'random' },
        { object: 'performance', property: 'now' },
      ],
      'no-restricted-syntax': [
        'error',
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'The moment is passed in.' },
      ],
    },
  },
  {
    files: ['src/**/*.tsx'],
    ignores: ['src/ui/kit/link.tsx'],
    rules: {
      'no-restricted-imports': [
        'error',
        { name: 'next/link', message: 'Links come from ui/kit/link: they fetch nothing ahead.' },
      ],
    },
  },
  { files: ['src/demo/**', 'worker/**', 'bench/**', 'bin/**', 'tests/**'], rules: { 'no-console': 'off' } },
  { files: ['**/*.{mjs,cjs}'], extends: [tseslint.configs.disableTypeChecked] },
);

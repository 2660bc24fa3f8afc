import js from '@eslint/js'
import { defineConfig, globalIgnores } from 'eslint/config'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import globals from 'globals'
import ts from 'typescript-eslint'

/** The same for all files: a project whose kinds of files change is read anew. */
const TYPED = {
  projectService: true,
  tsconfigRootDir: import.meta.dirname,
  extraFileExtensions: ['.vue'],
}

export default defineConfig([
  globalIgnores(['**/dist/', 'data/', '**/node_modules/', 'server/migrations/']),
  js.configs.recommended,
  ts.configs.recommended,
  vue.configs['flat/recommended'],
  {
    files: ['{core,contract,server,e2e,bench}/**/*.ts'],
    extends: [ts.configs.strictTypeChecked],
    languageOptions: { parserOptions: TYPED },
    rules: {
      '@typescript-eslint/restrict-template-expressions': 'off',
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
    },
  },
  {
    // A promise that nobody waits for loses its failure, on a page as anywhere.
    files: ['web/src/**/*.{ts,vue}'],
    languageOptions: { parserOptions: { parser: ts.parser, ...TYPED } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-for-in-array': 'error',
    },
  },
  {
    // Time and chance are arguments in the core.
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The time is an argument.' },
        { object: 'Math', property: 'random', message: 'Chance is an argument.' },
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: 'The time is an argument.',
        },
        { selector: "CallExpression[callee.name='Date']", message: 'The time is an argument.' },
      ],
    },
  },
  {
    // A value goes into SQL bound, never as text.
    files: ['{server,bench,e2e,demo}/**/*.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "MemberExpression[object.name='sql'][property.name='raw']",
          message: 'Bind the value: sql`… ${value}`. Text that becomes SQL can be anything.',
        },
      ],
    },
  },
  {
    // What a callback sets later is not seen by the analysis of a loop that waits for it.
    files: ['bench/*.ts'],
    rules: {
      '@typescript-eslint/no-unnecessary-condition': 'off',
      '@typescript-eslint/no-unnecessary-type-parameters': 'off',
    },
  },
  {
    // An expectation that is only sometimes looked at proves nothing where it is not.
    files: ['**/*.test.ts', 'e2e/*.spec.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            'IfStatement > ExpressionStatement.consequent > CallExpression[callee.property.name=/^to/]',
          message: 'Expect it in every case.',
        },
        {
          selector: "MemberExpression[object.name='sql'][property.name='raw']",
          message: 'Bind the value: sql`… ${value}`. Text that becomes SQL can be anything.',
        },
      ],
    },
  },
  {
    // Test callbacks hand promises to libraries typed as void-returning; supertest bodies are `any`.
    files: ['**/*.test.ts'],
    rules: {
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
    },
  },
  // Core tests may use Node; they are type-checked with the server, outside the core's own bare project.
  {
    files: ['{core,contract}/**/*.test.ts'],
    extends: [ts.configs.disableTypeChecked],
    languageOptions: { parserOptions: { projectService: false } },
  },
  // Factors are written with all digits of their definition, more than a double holds.
  { files: ['core/src/quantity/units-table.ts'], rules: { 'no-loss-of-precision': 'off' } },
  { files: ['**/*.{ts,vue}'], rules: { 'no-undef': 'off', '@typescript-eslint/no-explicit-any': 'error' } },
  { files: ['scripts/**/*.mjs', '*.mjs', '*/*.mjs'], languageOptions: { globals: globals.node } },
  // A component that was not imported would be drawn as nothing.
  { rules: { 'vue/no-undef-components': ['error', { ignorePatterns: ['^v-', '^router-'] }] } },
  { rules: { 'vue/valid-v-slot': ['error', { allowModifiers: true }] } },
  prettier,
])

import js from '@eslint/js'
import reactHooks from 'eslint-plugin-react-hooks'
import globals from 'globals'
import tseslint from 'typescript-eslint'

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'src/api/contract.gen.ts'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  reactHooks.configs.flat.recommended,
  // Says only that the React Compiler would pass a component over; no compiler runs here.
  { rules: { 'react-hooks/incompatible-library': 'off' } },
  // Taking fields out of a copy names them.
  { rules: { '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true }] } },
  // What can be pressed, chosen or typed into comes from the primitives, so that it looks and behaves alike everywhere.
  {
    files: ['src/**/*.tsx'],
    ignores: ['src/ui/{button,input,pop,select,table}.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'JSXOpeningElement[name.name=/^(button|select|input|textarea|table|details|dialog)$/]',
          message: 'Use a primitive of src/ui.',
        },
      ],
    },
  },
  // No edit goes around the queues of src/edits, and nothing is fetched but by the client of src/api.
  {
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['src/{api,edits,embed}/**'],
    rules: {
      'no-restricted-globals': ['error', { name: 'fetch', message: 'Ask by api of src/api.' }],
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: ['**/api/client'], importNames: ['changing'], message: 'Edits go through src/edits.' },
            {
              group: ['openapi-fetch', '**/contract.gen'],
              message: 'The client of src/api is the only one.',
            },
          ],
        },
      ],
    },
  },
  // A notice undoes the change that it tells of, which only the workshop knows.
  {
    files: ['src/**/*.tsx'],
    ignores: ['src/api/**', 'src/ui/{button,input,pop,select,table}.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'JSXOpeningElement[name.name=/^(button|select|input|textarea|table|details|dialog)$/]',
          message: 'Use a primitive of src/ui.',
        },
        {
          selector: 'CallExpression[callee.name="toast"] Property[key.name="label"][value.value="Undo"]',
          message: 'Say it with the edit: then it comes with the way to undo it.',
        },
      ],
    },
  },
  { languageOptions: { globals: globals.browser } },
)

import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import svelte from 'eslint-plugin-svelte'
import { defineConfig } from 'eslint/config'
import globals from 'globals'
import ts from 'typescript-eslint'

// Every sentence stands in the catalogue: markup holds no letters of its own.
const noLiteralText = {
  rules: {
    'no-literal-text': {
      meta: { type: 'problem', schema: [] },
      create: (context) => ({
        SvelteText(node) {
          if (/\p{L}/u.test(node.value) && node.parent.type === 'SvelteElement') {
            context.report({ node, message: 'Literal text in markup: put it into texts/en.json.' })
          }
        },
      }),
    },
  },
}

export default defineConfig(
  { ignores: ['build/', 'placeholder/', 'src/lib/api/schema.d.ts', 'src/lib/text/gen/'] },
  js.configs.recommended,
  ts.configs.recommendedTypeChecked,
  svelte.configs.recommended,
  prettier,
  svelte.configs.prettier,
  {
    languageOptions: {
      globals: { ...globals.browser },
      parserOptions: {
        projectService: { allowDefaultProject: ['eslint.config.js', 'svelte.config.js', 'scripts/*.mjs'] },
      },
    },
  },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'] } },
    // A Map that is made and never changed, or never shown, needs no reactive twin.
    rules: { 'svelte/prefer-svelte-reactivity': 'off' },
  },
  {
    files: ['src/**/*.svelte'],
    plugins: { house: noLiteralText },
    rules: {
      'house/no-literal-text': 'error',
      'svelte/no-navigation-without-resolve': 'off', // the router takes plain links
      // svelte-check knows the types of components and snippets; this parser sees any.
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
    },
  },
  { files: ['*.config.js', 'scripts/*.mjs'], extends: [ts.configs.disableTypeChecked] },
  { files: ['scripts/*.mjs'], languageOptions: { globals: { ...globals.node } } },
)

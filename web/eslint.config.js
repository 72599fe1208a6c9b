import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import globals from 'globals'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['dist/**', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.{ts,vue}'],
    languageOptions: {
      globals: globals.browser,
      parserOptions: { parser: ts.parser },
    },
    rules: {
      'vue/multi-word-component-names': 'off',
      // Every call goes through the typed front door.
      'no-restricted-globals': ['error', 'fetch', 'XMLHttpRequest'],
      'no-undef': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_' }],
    },
  },
  { files: ['src/api/client.ts', 'src/worker.ts'], rules: { 'no-restricted-globals': 'off' } },
  { files: ['*.js'], languageOptions: { globals: globals.node } },
  prettier,
)

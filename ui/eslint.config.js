import pluginVue from 'eslint-plugin-vue'
import globals from 'globals'
import tseslint from 'typescript-eslint'

export default tseslint.config(
  { ignores: ['dist', 'src/api/schema.gen.ts'] },
  ...tseslint.configs.recommended,
  ...pluginVue.configs['flat/recommended'],
  {
    files: ['**/*.{ts,vue}'],
    languageOptions: { globals: globals.browser, parserOptions: { parser: tseslint.parser } },
    // How it is laid out, Prettier says.
    rules: Object.fromEntries(
      ['max-attributes-per-line', 'singleline-html-element-content-newline', 'multiline-html-element-content-newline',
        'html-self-closing', 'html-indent', 'html-closing-bracket-newline', 'first-attribute-linebreak']
        .map((rule) => [`vue/${rule}`, 'off']),
    ),
  },
)

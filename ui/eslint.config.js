import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'
import vueParser from 'vue-eslint-parser'

export default ts.config(
  { ignores: ['dist/**', 'node_modules/**', 'shared/schema.d.ts'] },
  ...ts.configs.strict,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parser: vueParser, parserOptions: { parser: ts.parser, sourceType: 'module' } },
  },
  {
    rules: {
      'vue/multi-word-component-names': 'off',
      // Prettier lays templates out.
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/html-quotes': ['warn', 'double', { avoidEscape: true }],
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/attributes-order': 'off',
      // Messages come as HTML that the server escaped; see NoticeProof.
      'vue/no-v-html': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
    },
  },
)

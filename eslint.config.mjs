import prettier from 'eslint-config-prettier'
import importX from 'eslint-plugin-import-x'
import withNuxt from './.nuxt/eslint.config.mjs'

/** Folders of the core in the order they may know each other: each only those before it. */
const CORE = [
  'tree',
  'access',
  'vote',
  'schedule',
  'meeting',
  'calendar',
  'compare',
  'history',
  'find',
  'figures',
  'board',
  'presenting',
  'capture',
  'dress',
  'arrange',
  'formats',
  'side-by-side',
  'scene',
  'handing',
  'starters',
  'guide',
  'telling',
  'contract',
]
const NO_HOUSE = [
  'vue',
  'vue-router',
  'pinia',
  '#imports',
  '#app',
  'nuxt',
  'nuxt/*',
  'h3',
  'node:*',
  'drizzle-orm',
  'drizzle-orm/*',
  'mysql2',
  'mysql2/*',
]

export default withNuxt(
  { ignores: ['server/database/migrations/**', '.output/**', '.nuxt/**', '.data/**'] },
  {
    plugins: { 'import-x': importX },
    settings: {
      // Without these the rule against cycles reads nothing but JavaScript.
      'import-x/extensions': ['.ts', '.mts', '.vue', '.js', '.mjs'],
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts', '.mts'], 'vue-eslint-parser': ['.vue'] },
      'import-x/resolver-next': [
        importX.createNodeResolver({
          extensions: ['.ts', '.mts', '.vue', '.js', '.mjs'],
          alias: {
            '#core': [`${import.meta.dirname}/core`],
            '#demo': [`${import.meta.dirname}/demo`],
            '~': [`${import.meta.dirname}/app`],
          },
        }),
      ],
    },
    rules: {
      'import-x/no-cycle': 'error',
      'import-x/no-default-export': 'off',
      '@typescript-eslint/no-explicit-any': 'error',
      'vue/multi-word-component-names': 'off',
      'vue/attributes-order': 'off',
    },
  },
  ...CORE.map((folder, i) => ({
    files: [`core/${folder}/**/*.ts`],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: NO_HOUSE, message: 'The core knows no framework, no machine and no database.' },
            {
              group: ['#core/**', '#demo/**', '~/**', '**/server/**', '**/app/**', '**/demo/**'],
              message: 'The core is the ground floor: it imports nothing from above, and itself by relative paths.',
            },
            {
              group: CORE.slice(i + 1).map(later => `../${later}/**`),
              message: 'This core folder stands below that one.',
            },
          ].filter(({ group }) => group.length > 0),
        },
      ],
    },
  })),
  {
    files: ['server/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: ['~/**', '**/app/**', 'vue', 'pinia'], message: 'The server doesn’t know the interface.' },
          ],
        },
      ],
    },
  },
  {
    files: ['server/**/*.ts'],
    ignores: ['server/database/transaction.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "CallExpression[callee.property.name='transaction']",
          message: 'By `inTransaction`: so many at once, and again where two met.',
        },
      ],
    },
  },
  {
    files: ['app/**/*.{ts,vue}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/server/**', '#demo/**', 'drizzle-orm', 'mysql2'],
              message: 'The interface speaks to the server over the wire only.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['demo/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [{ group: ['~/**', '**/server/**', '**/app/**'], message: 'The demo is data on top of the core.' }],
        },
      ],
    },
  },
  // How lines are set is the formatter's alone.
  prettier,
)

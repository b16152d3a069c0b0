import jsxA11y from 'eslint-plugin-jsx-a11y-x';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Which room may import which; tests may look anywhere. Relative paths that leave a room count as imports too. */
const allowed = {
  core: [],
  media: ['core'],
  data: ['core'],
  jobs: ['media', 'data', 'core'],
  cli: ['media', 'core'],
  app: ['data', 'jobs', 'core'],
};
const rooms = Object.keys(allowed);

const roomRules = rooms.map((room) => {
  const forbidden = rooms.filter((other) => other !== room && !allowed[room].includes(other));
  return {
    files: [`${room}/**/*.{ts,tsx}`],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            ...forbidden.map((other) => ({
              regex: `^(#${other}/|(\\.\\./)+${other}/)`,
              message: `${room} may not import ${other}.`,
            })),
            ...(room === 'core'
              ? [
                  {
                    regex: '^(node:|react|drizzle|pg$|@)',
                    message: 'core is plain TypeScript: no Node, DOM, database or framework.',
                  },
                ]
              : []),
            ...(room === 'app'
              ? [{ regex: '^#jobs/(?!queue$)', message: 'app may only put work into the queue.' }]
              : []),
          ],
        },
      ],
    },
  };
});

export default tseslint.config(
  {
    ignores: [
      'node_modules',
      'build',
      '.react-router',
      'data/local',
      'data/migrations',
      'tmp',
      'test-results',
      'playwright-report',
      'demo/media',
      'demo/readings',
    ],
  },
  ...tseslint.configs.recommendedTypeChecked,
  {
    languageOptions: {
      parserOptions: {
        projectService: {
          allowDefaultProject: [
            'eslint.config.js',
            '.dependency-cruiser.cjs',
            'media/faceWorker.mjs',
            'scripts/completeLock.mjs',
          ],
        },
        tsconfigRootDir: import.meta.dirname,
      },
    },
    linterOptions: { reportUnusedDisableDirectives: 'off' },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
      '@typescript-eslint/only-throw-error': 'off',
      '@typescript-eslint/unbound-method': 'off',
      '@typescript-eslint/prefer-promise-reject-errors': 'off',
      '@typescript-eslint/require-await': 'off',
    },
  },
  { files: ['**/*.{js,mjs,cjs}'], ...tseslint.configs.disableTypeChecked },
  { files: ['**/*.cjs'], languageOptions: { globals: { module: 'writable' } } },
  {
    files: ['app/**/*.{ts,tsx}'],
    plugins: { ...reactHooks.configs.flat.recommended.plugins, ...jsxA11y.configs.recommended.plugins },
    rules: {
      ...reactHooks.configs.flat.recommended.rules,
      'react-hooks/exhaustive-deps': 'error',
      // It takes every object that has a callback ref for a ref; what handlers need of a later render is in useLatest.
      'react-hooks/refs': 'off',
      // These two prepare for the React compiler, which is not used here.
      'react-hooks/set-state-in-effect': 'off',
      'react-hooks/incompatible-library': 'off',
      ...jsxA11y.configs.recommended.rules,
      // Regions that scroll take the focus, so that keys can scroll them.
      'jsx-a11y-x/no-noninteractive-tabindex': ['error', { roles: ['tabpanel', 'region'], tags: [] }],
      // Fields get the focus only when a person opened them.
      'jsx-a11y-x/no-autofocus': 'off',
      // Footage and renders have no caption tracks; what is said in them stands in the Words panel.
      'jsx-a11y-x/media-has-caption': 'off',
    },
  },
  ...roomRules,
);

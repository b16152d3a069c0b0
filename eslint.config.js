import jsxA11y from 'eslint-plugin-jsx-a11y-x';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Which room may import which; tests may look anywhere. Relative paths that leave a room count as imports too. */
const allowed = {
  core: [],
  media: ['core'],
  data: ['core'],
  usecases: ['data', 'media', 'core'],
  jobs: ['usecases', 'core'],
  // Moving a store is work on data alone.
  cli: ['media', 'data', 'core'],
  app: ['usecases', 'core'],
  web: [],
  settings: [],
};
const rooms = Object.keys(allowed);

/** What core may not know: it runs in Node, in a browser and in a worker alike. */
const outsideOfCore = {
  regex: '^(node:|react|drizzle|pg$|@)',
  message: 'core is plain TypeScript: no Node, DOM, database or framework.',
};
/** What the browser gets may know use cases by their types only; routes and the server's own files call them. */
const onlyTypes = {
  regex: '^#usecases/',
  allowTypeImports: true,
  message: 'Only routes and app/server may call use cases; elsewhere import their types.',
};

function roomRule(room) {
  // Whoever runs on the server may ask for a setting.
  const forbidden = rooms.filter(
    (other) => other !== room && !allowed[room].includes(other) && (other !== 'settings' || room === 'core'),
  );
  const patterns = forbidden.map((other) => ({
    regex: `^(#${other}(/|$)|(\\.\\./)+${other}/)`,
    message: `${room} may not import ${other}.`,
  }));
  if (room === 'core') patterns.push(outsideOfCore);
  const rule = (more) => ({
    '@typescript-eslint/no-restricted-imports': ['error', { patterns: [...patterns, ...more] }],
  });
  const files = [`${room}/**/*.{ts,tsx}`];
  const tests = '**/*.test.{ts,tsx}';
  if (room !== 'app') return [{ files, ignores: [tests], rules: rule([]) }];
  const callers = ['app/routes/**', 'app/server/**', 'app/entry.server.tsx'];
  return [
    { files, ignores: [tests, ...callers], rules: rule([onlyTypes]) },
    { files: callers, ignores: [tests], rules: rule([]) },
  ];
}

export default tseslint.config(
  {
    ignores: [
      'core/picture/simd/assembly',
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
            'usecases/threads/start.mjs',
            'usecases/background/pulseThread.mjs',
            'scripts/*.mjs',
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
      'no-restricted-properties': [
        'error',
        { object: 'crypto', property: 'randomUUID', message: 'Only there on secure addresses; use newId.' },
      ],
      'no-restricted-imports': [
        'error',
        {
          name: 'react-router',
          importNames: ['useRevalidator'],
          message: 'It breaks off what is loading; use useReload.',
        },
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector:
            'JSXAttribute[name.name=/^(onPointerDown|onPointerUp|onTouchStart|draggable|onDrag(Start|Over|Enter))$/]',
          message: 'One layer for hands: useDraw draws, Movable moves, useFilesLanding takes files (app/hands).',
        },
        {
          selector:
            "JSXOpeningElement[name.object.name='Popover'][name.property.name='Content']:not(:has(JSXAttribute[name.name='aria-label']))",
          message: 'It is a dialog, and a screen reader says its name.',
        },
        {
          selector: "CallExpression[callee.property.name='setPointerCapture']",
          message: 'useDraw follows the pointer (app/hands).',
        },
        {
          selector:
            "CallExpression[callee.object.name='request'][callee.property.name=/^(formData|json|text)$/]:not(MemberExpression[property.name='catch'] > CallExpression)",
          message: 'What cannot be read is no fault of the server: formOf and jsonOf say so (app/server).',
        },
      ],
      // Two screens and a half of an editor; most are under one.
      'max-lines-per-function': ['error', { max: 150, skipBlankLines: true, skipComments: true }],
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
  { files: ['app/ui/useReload.ts', 'app/**/*.test.tsx'], rules: { 'no-restricted-imports': 'off' } },
  {
    files: ['app/**/*.test.{ts,tsx}'],
    rules: { 'max-lines-per-function': 'off', 'no-restricted-properties': 'off' },
  },
  ...rooms.flatMap(roomRule),
);

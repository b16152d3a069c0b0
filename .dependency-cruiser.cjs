/** Import cycles, also those that go through types only; the rule between rooms is in eslint.config.js. */
module.exports = {
  forbidden: [{ name: 'no-cycle', severity: 'error', from: {}, to: { circular: true } }],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.react-router/|build/|\\+types/' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'node', 'default'] },
  },
};

/** The floors: arrows point down only. core < server, ui < app, worker, demo. */
module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^(src/core|tests/oracle/(?!planted))' },
      to: { path: '^(src/(server|ui|app|demo)|worker)/' },
    },
    {
      name: 'core-does-no-io',
      severity: 'error',
      from: { path: '^src/core', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-knows-no-framework',
      severity: 'error',
      from: { path: '^src/core', pathNot: '\\.test\\.ts$' },
      to: { path: 'node_modules/(react|next|drizzle-orm|pg|@tus|tus-js-client)/' },
    },
    {
      name: 'ui-asks-through-the-contract',
      severity: 'error',
      from: { path: '^src/ui' },
      to: { path: '^src/(server|app|demo)' },
    },
    {
      name: 'server-knows-no-screens',
      severity: 'error',
      from: { path: '^src/server' },
      to: { path: '^(src/(ui|app|demo)|worker)/' },
    },
    {
      name: 'server-knows-no-react',
      severity: 'error',
      from: { path: '^src/server' },
      to: { path: 'node_modules/(react|react-dom|next)/' },
    },
    {
      name: 'nothing-imports-pages',
      severity: 'error',
      from: { pathNot: '^src/(app|proxy)' },
      to: { path: '^src/app' },
    },
    {
      name: 'drizzle-in-server-only',
      severity: 'error',
      from: { path: '^src/(ui|core|app/\\(room\\))' },
      to: { path: 'node_modules/drizzle-orm/' },
    },
    {
      name: 'the-product-does-not-need-the-demo',
      severity: 'error',
      from: { path: '^(src/(core|server|ui|app)|worker)' },
      to: { path: '^src/demo' },
    },
    // numfmt names a file for `require` that it does not ship; as a module it is there.
    {
      name: 'not-to-unresolvable',
      severity: 'error',
      from: {},
      to: { couldNotResolve: true, pathNot: '\\.css$|^numfmt$' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)\\.next' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
      mainFields: ['module', 'main', 'types'],
    },
  },
};

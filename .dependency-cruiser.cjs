/** The arrows of the house: they only run downwards. */
module.exports = {
  forbidden: [
    {
      name: 'core-is-computation-only',
      comment: 'core runs in a worker, on the server and in a test: no Node module, nothing of the other rooms.',
      severity: 'error',
      from: { path: '^core/src' },
      to: { path: '^(server|web|demo|e2e)/|^node:' },
    },
    {
      name: 'core-uses-no-node-builtins',
      severity: 'error',
      from: { path: '^core/src' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-imports-only-small-numeric-geometric-parsing-libraries-and-yup',
      severity: 'error',
      from: { path: '^core/src' },
      to: {
        path: 'node_modules/',
        pathNot:
          'node_modules/(yup|delaunator|d3-contour|d3-array|internmap|proj4|mgrs|wkt-parser|suncalc|saxes|flatqueue|base64-js|xmlchars|@types/(geojson|d3-contour|delaunator))(/|$)',
      },
    },
    { name: 'web-never-imports-server-or-demo', severity: 'error', from: { path: '^web/src' }, to: { path: '^(server|demo|e2e)/' } },
    { name: 'web-never-imports-node', severity: 'error', from: { path: '^web/src' }, to: { dependencyTypes: ['core'] } },
    { name: 'server-never-imports-web', severity: 'error', from: { path: '^server/src' }, to: { path: '^(web|e2e)/' } },
    { name: 'demo-imports-core-only', severity: 'error', from: { path: '^demo/src' }, to: { path: '^(server|web|e2e)/' } },
    {
      name: 'rooms-of-core-are-entered-by-their-front-door',
      comment: 'Between folders of core, and from other rooms, only index.ts is imported.',
      severity: 'error',
      from: { path: '^(?:(?:server|web|demo)/src|core/src/([^/]+))/' },
      to: { path: '^core/src/[^/]+/(?!index\\.ts)', pathNot: ['^core/src/$1/', '^core/src/formats/binary\\.ts$'] },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    { name: 'what-is-imported-exists', severity: 'error', from: {}, to: { couldNotResolve: true, pathNot: '^geojson$' } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|test)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.json', '.css'],
    },
  },
};

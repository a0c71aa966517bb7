// The arrows between the parts point one way: core ← contract ← server, web; drawing builds on core.
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '\\.(test|fixture)\\.ts$' },
  to: { path: '^(packages|apps|e2e|demo|scripts)/', pathNot: allowed },
})

module.exports = {
  forbidden: [
    only('core-stands-alone', '^packages/core/', '^packages/core/'),
    only('contract-on-core', '^packages/contract/', '^packages/(contract|core)/'),
    only('drawing-on-core', '^packages/drawing/', '^packages/(drawing|core)/'),
    only('stand-in-on-core', '^apps/stand-in/src/', '^(apps/stand-in/|packages/core/)'),
    only('server-on-contract', '^apps/server/src/', '^(apps/server/|packages/)'),
    only('web-on-contract', '^apps/web/src/', '^(apps/web/|packages/)'),
    {
      name: 'core-has-no-node',
      severity: 'error',
      from: { path: '^packages/(core|drawing)/', pathNot: '\\.(test|fixture)\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-has-no-framework',
      severity: 'error',
      from: { path: '^packages/core/', pathNot: '\\.(test|fixture)\\.ts$' },
      to: { dependencyTypes: ['npm', 'npm-dev', 'npm-no-pkg', 'npm-unknown'], pathNot: 'node_modules/zod/' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, dependencyTypesNot: ['type-only'] } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(dist|node_modules/(?!zod))' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.mjs', '.js', '.vue', '.json'],
    },
  },
}

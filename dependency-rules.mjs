/** Who may import whom; docs/decisions/0001 says why. */
const forbid = (name, from, to, comment) => ({
  name,
  severity: 'error',
  comment,
  from: { path: from },
  to: { path: to },
});

export default {
  forbidden: [
    forbid(
      'core-stands-alone',
      '^core/src',
      '^(cli|server|web|demo|e2e)/',
      'the core knows nothing of what uses it',
    ),
    forbid('cli-uses-core-only', '^cli/src', '^(server|web|demo|e2e)/'),
    forbid('server-uses-core-only', '^server/src', '^(cli|web|demo|e2e)/'),
    forbid(
      'web-uses-core-only',
      '^web/src',
      '^(cli|server|demo|e2e)/',
      'the web knows the server by its OpenAPI document',
    ),
    forbid(
      'demo-uses-core-only',
      '^demo/src',
      '^(cli|server|web|e2e)/',
      'the demo is loaded through the public HTTP API',
    ),
    forbid('e2e-uses-the-running-program', '^e2e/src', '^(core|cli|server|web|demo)/'),
    forbid(
      'kit-knows-no-page',
      '^web/src/kit',
      '^web/src/(data|desks|exercises|gradebook|jobs|pages|people|submissions|you)/',
    ),
    {
      name: 'core-is-pure',
      severity: 'error',
      comment: 'the core runs in browsers and in workers: no part of Node',
      from: { path: '^core/src', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'no-cycles',
      severity: 'error',
      from: { path: '^(core|web|demo)/src' },
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|node_modules)/' },
    tsPreCompilationDeps: 'specify',
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['sieve-sources', 'import', 'node', 'default'],
    },
  },
};

/** Who may import whom; docs/decisions/0001 says why. */
const forbid = (name, from, to, comment) => ({
  name,
  severity: 'error',
  comment,
  from: { path: from },
  to: { path: to },
});

/** The groups of the core, lowest first: each may import those before it, types included. */
const LAYERS = ['foundation', 'data', 'splitting', 'metrics', 'models', 'evaluation', 'audit', 'assessment'];

const layers = LAYERS.slice(0, -1).map((layer, i) =>
  forbid(
    `${layer}-knows-no-higher-group`,
    `^core/src/${layer}/`,
    `^core/src/(${LAYERS.slice(i + 1).join('|')})/`,
    'docs/architecture.md has the groups of the core, lowest first',
  ),
);

export default {
  forbidden: [
    ...layers,
    forbid(
      'core-stands-alone',
      '^core/src',
      '^(cli|server|web|demo|e2e)/',
      'the core knows nothing of what uses it',
    ),
    forbid('cli-uses-core-only', '^cli/src', '^(server|web|demo|e2e)/'),
    forbid('server-uses-core-only', '^server/src', '^(cli|web|demo|e2e)/'),
    forbid(
      'platform-knows-no-feature',
      '^server/src/platform/',
      '^server/src/(?!platform/|api/)',
      'features give the platform what they have in server/src/assembly',
    ),
    forbid(
      'api-stands-alone',
      '^server/src/api/',
      '^server/src/(?!api/)',
      'the types of the API are what every feature and the pages agree on',
    ),
    forbid('features-do-not-know-the-assembly', '^server/src/(?!assembly/)[a-z]+/', '^server/src/assembly/'),
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
      from: { path: '^core/src', pathNot: '(\\.test|-of-tests)\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'no-cycles',
      severity: 'error',
      from: { path: '^(core|server|web|demo)/src' },
      to: { circular: true },
    },
    {
      name: 'no-folder-cycles',
      severity: 'error',
      scope: 'folder',
      from: { path: '^(core|server|web|demo)/src' },
      to: { circular: true },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    // Tests may take from anywhere in their own workspace: they are not part of the program's layers.
    exclude: {
      path: '(^|/)(dist|node_modules)/|^(core|server|web|demo)/(test/|.*([.]test[.]tsx?|-of-tests[.]ts)$)',
    },
    tsPreCompilationDeps: 'specify',
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['sieve-sources', 'import', 'node', 'default'],
    },
  },
};

const swc = (tsx) => ({
  jsc: {
    target: 'es2023',
    parser: { syntax: 'typescript', decorators: true, tsx },
    transform: { legacyDecorator: true, decoratorMetadata: true, react: { runtime: 'automatic' } },
    keepClassNames: true,
  },
  module: { type: 'es6' },
});

const project = (name) => ({
  displayName: name,
  rootDir: import.meta.dirname,
  roots: [`<rootDir>/${name}`],
  testPathIgnorePatterns: ['/dist/', '/node_modules/'],
  modulePathIgnorePatterns: ['/dist/'],
  testEnvironment: 'node',
  testEnvironmentOptions: { customExportConditions: ['sieve-sources', 'node', 'node-addons'] },
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.ts$': ['<rootDir>/scripts/jest-transform.mjs', swc(false)],
    '^.+\\.tsx$': ['<rootDir>/scripts/jest-transform.mjs', swc(true)],
  },
  moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1' },
  setupFiles: ['<rootDir>/scripts/test-database.mjs', '<rootDir>/web/test/document.mjs'],
});

export default {
  testTimeout: 600_000,
  // What a context of modules held is not all given back: a worker that has run many files does little but collect garbage.
  workerIdleMemoryLimit: '500MB',
  projects: ['core', 'cli', 'demo', 'web', 'server', 'e2e'].map(project),
};

const swc = {
  jsc: {
    target: 'es2023',
    parser: { syntax: 'typescript', decorators: true },
    transform: { legacyDecorator: true, decoratorMetadata: true },
    keepClassNames: true,
  },
  module: { type: 'es6' },
};

const project = (name, more = {}) => ({
  displayName: name,
  rootDir: import.meta.dirname,
  roots: [`<rootDir>/${name}`],
  testPathIgnorePatterns: ['/dist/', '/node_modules/'],
  modulePathIgnorePatterns: ['/dist/'],
  testEnvironment: 'node',
  testEnvironmentOptions: { exportConditions: ['sieve-sources', 'node', 'import'] },
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: { '^.+\\.tsx?$': ['@swc/jest', swc] },
  moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1' },
  ...more,
});

export default {
  projects: [
    project('core'),
    project('demo'),
    project('server', { testTimeout: 60_000 }),
    project('e2e', { testTimeout: 120_000 }),
  ],
};

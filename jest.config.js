const shared = {
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: { '^.+\\.tsx?$': '<rootDir>/server/testing/translate.mjs' },
  testEnvironment: 'node',
  setupFiles: ['<rootDir>/server/testing/one-realm.mjs'],
}

export default {
  // Against a hang only: how fast a shared machine is says nothing about a test.
  testTimeout: 60_000,
  // What a file of tests loaded is not given back, and a process that holds a few dozen takes five times as long for the next.
  workerIdleMemoryLimit: '700MB',
  projects: [
    { ...shared, displayName: 'unit', testMatch: ['<rootDir>/{core,app,practice-host,server}/**/*.test.ts'] },
    {
      ...shared,
      displayName: 'database',
      testMatch: ['<rootDir>/server/**/*.spec.ts'],
      testPathIgnorePatterns: ['faults\\.spec\\.ts$', 'real-hosts\\.spec\\.ts$'],
    },
    // Against the servers that web hosts run: npm run check:hosts.
    { ...shared, displayName: 'hosts', testMatch: ['<rootDir>/server/deliveries/real-hosts.spec.ts'] },
    // By itself: it watches how long the event loop is held, and nothing else may hold the processors.
    { ...shared, displayName: 'faults', testMatch: ['<rootDir>/server/faults.spec.ts'] },
  ],
}

const shared = {
  // A file is run once a worker's modules are there, which files of one worker share: see server/testing/jest.
  runner: 'jest-light-runner',
  setupFiles: ['<rootDir>/server/testing/jest/natively.mjs'],
  testEnvironment: 'node',
}

export default {
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

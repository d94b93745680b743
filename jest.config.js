const shared = {
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.tsx?$': ['@swc/jest', { jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true } } }],
  },
  testEnvironment: 'node',
}

export default {
  projects: [
    { ...shared, displayName: 'unit', testMatch: ['<rootDir>/{core,app,practice-host,server}/**/*.test.ts'] },
    {
      ...shared,
      displayName: 'database',
      testMatch: ['<rootDir>/server/**/*.spec.ts'],
    },
  ],
}

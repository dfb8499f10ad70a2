/** @type {import('jest').Config} */
const shared = {
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: [
    '/node_modules/(?!(@tus|srvx|file-type|strtok3|token-types|uint8array-extras|@borewit|@tokenizer|canonicalize|better-auth|@better-auth|@better-fetch|better-call|@noble|nanostores|jose|kysely|rou3|defu|set-cookie-parser)/)',
  ],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/.next-test', '<rootDir>/.embrin'],
  testEnvironment: 'node',
};

export default {
  maxWorkers: 2,
  projects: [
    { ...shared, displayName: 'unit', testMatch: ['<rootDir>/src/**/*.test.ts'] },
    {
      ...shared,
      displayName: 'integration',
      testMatch: ['<rootDir>/tests/integration/**/*.test.ts'],
      globalSetup: '<rootDir>/tests/integration/template.ts',
      setupFiles: ['<rootDir>/tests/integration/environment.ts'],
    },
    { ...shared, displayName: 'browser', testMatch: ['<rootDir>/tests/browser/**/*.test.ts'] },
  ],
};

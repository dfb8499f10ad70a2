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
        module: { type: 'commonjs', ignoreDynamic: true },
      },
    ],
  },
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/.next-test', '<rootDir>/.embrin'],
  testEnvironment: 'node',
  // The sign-in library, the WebDAV client and what they are made of come as modules only, which Jest cannot require.
  transformIgnorePatterns: [
    '/node_modules/(?!(?:@?better-auth|better-call|@better-fetch|jose|@noble|nanostores|rou3|defu|nuqs|webdav|@buttercup|hot-patcher|layerr|url-join|@nodable|entities|node-fetch|fetch-blob|formdata-polyfill|data-uri-to-buffer)/)',
  ],
};

export default {
  maxWorkers: 2,
  testTimeout: 600_000,
  projects: [
    { ...shared, displayName: 'unit', testMatch: ['<rootDir>/src/**/*.test.{ts,tsx}'] },
    {
      ...shared,
      displayName: 'integration',
      testMatch: ['<rootDir>/tests/integration/**/*.test.ts'],
      setupFiles: ['<rootDir>/tests/integration/environment.ts'],
    },
    {
      ...shared,
      displayName: 'browser',
      testMatch: ['<rootDir>/tests/browser/**/*.test.ts'],
      setupFiles: ['<rootDir>/tests/integration/environment.ts'],
    },
  ],
};

/** Tests import the packages by their names, as users do: as they are built. */
import { availableParallelism } from 'node:os';

export default {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/tests/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: {
    '\\.ts$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'es6' } }],
  },
  globalSetup: '<rootDir>/scripts/fresh-build.mjs',
  // Copies of the packages that tests install.
  modulePathIgnorePatterns: ['<rootDir>/build'],
  // One that waits for a browser leaves its core to the other; a third one on two cores makes all of them slower.
  maxWorkers: Math.max(2, availableParallelism() - 1),
  testTimeout: 60_000,
};

/** Tests import the library by its entry points, from the sources. */
import { availableParallelism } from 'node:os';
import { entries } from './scripts/entries.mjs';

export default {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/tests/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: {
    '\\.ts$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'es6' } }],
  },
  moduleNameMapper: Object.fromEntries(
    Object.entries(entries).map(([name, source]) => [
      `^${name.replace('*', '([\\w-]+)')}$`,
      `<rootDir>/${source.replace('*', '$1')}`,
    ]),
  ),
  modulePathIgnorePatterns: ['<rootDir>/packages/[^/]+/dist', '<rootDir>/build'],
  // One that waits for a browser leaves its core to the other; a third one on two cores makes all of them slower.
  maxWorkers: Math.max(2, availableParallelism() - 1),
  testTimeout: 60_000,
};

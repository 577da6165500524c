/** Tests import the library by its entry points, from the sources. */
import { entries } from './scripts/entries.mjs';

export default {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/tests/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: {
    '\\.ts$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'es6' } }],
  },
  moduleNameMapper: Object.fromEntries(
    Object.entries(entries).map(([name, source]) => [`^${name}$`, `<rootDir>/${source}`]),
  ),
  modulePathIgnorePatterns: ['<rootDir>/dist', '<rootDir>/build'],
  testTimeout: 60_000,
};

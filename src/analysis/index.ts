/** What the tools know. Pure: sources and errors in, findings out. */
export { findingOf, summary } from './findings.ts';

/** What the tools know. Pure: sources and errors in, findings out. */
export { type Finding, findingOf, summary } from './findings.ts';

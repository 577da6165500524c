/** The voice of commands: to people in lines, to programs in JSON. */
export { colours } from './colours.ts';
export { commandDiagnostic } from './diagnostics.ts';
export { errorText } from './error-text.ts';
export { type Streams, Terminal } from './terminal.ts';
export { inOurWords } from './wording.ts';

/** Pages in dialogs. A module of its own, loaded with the first link that opens one. */
export { type Around, createDialogs, type Dialogs } from './dialogs.ts';

/** What was sent, sorted: fields of the form, and what is to be done with it. */
import {
  allField,
  editField,
  formField,
  keptField,
  methodParameter,
  removeField,
  stateField,
  tokenField,
} from '../../protocol/index.ts';
import type { Entry } from './entries.ts';

/** Names that the library itself puts into forms and URLs. */
const ownNames = new Set([
  tokenField,
  formField,
  keptField,
  removeField,
  stateField,
  editField,
  allField,
  methodParameter,
]);

/** What a sender says of the form’s fields, and of what is done with it. */
export function sortEntries(all: readonly Entry[], buttons: readonly string[] = []) {
  const entries: Entry[] = [];
  const boxes: string[] = [];
  let [button, edit]: Array<string | undefined> = [];
  for (const entry of all) {
    const [name, value] = entry;
    if (name.startsWith('loom-') || name === methodParameter) {
      if (name === editField) edit ??= value;
      else if (name === allField) boxes.push(value);
      if (ownNames.has(name)) continue;
    }
    if (buttons.includes(name)) button ??= name;
    else entries.push(entry);
  }
  return { entries, button, edit, boxes };
}

/** The sealed list of the names that a form showed, so that no field can be slipped in that was not on the page. */
import type { Sealer } from './sealing.ts';

/** So long after its page was shown a form can be sent, in minutes: long enough for a day’s work on it. */
export const longestOpen = 24 * 60;

/** What a form showed, on which page. */
export interface ShownNames {
  form: string;
  names: readonly string[];
  /** Tells pages apart. */
  page: string;
  /** When it was shown, in minutes since 1970. */
  minute: number;
}

/** A list that is ours and this visitor’s. */
export interface OpenedNames {
  form: string;
  names: ReadonlySet<string>;
  page: string;
  /** Whether it was shown too long ago. */
  isOld: boolean;
}

/** The value of the hidden field `loom-form`: the form’s name, the names it showed, page and time, a proof for this visitor. */
export function sealNames(sealer: Sealer, session: string, { form, names, page, minute }: ShownNames): string {
  const list = `${form}:${[...new Set(names)].map(encodeURIComponent).join(',')}:${page}.${minute.toString(36)}`;
  return `${list}:${sealer.sign('names', `${session} ${list}`)}`;
}

/** The list that was sealed, or `undefined` where it is not ours or not this visitor’s. */
export function openNames(sealer: Sealer, session: string, sealed: string, minute: number): OpenedNames | undefined {
  const end = sealed.lastIndexOf(':');
  if (!sealer.verify('names', `${session} ${sealed.slice(0, Math.max(0, end))}`, sealed.slice(end + 1)))
    return undefined;
  const [form = '', list = '', shown = ''] = sealed.split(':');
  const dot = shown.lastIndexOf('.');
  const age = minute - Number.parseInt(shown.slice(dot + 1), 36);
  return {
    form,
    names: new Set(list === '' ? [] : list.split(',').map(decoded)),
    page: shown.slice(0, dot),
    isOld: !(age <= longestOpen),
  };
}

/** Most names are as they are. */
function decoded(name: string): string {
  return name.includes('%') ? decodeURIComponent(name) : name;
}

/** The name of the form in such a list, whether or not the list is ours. */
export function formOfNames(sealed: string): string {
  return sealed.split(':')[0] ?? '';
}

/** The sealed list of the fields that a form showed: a field that was not on the page cannot be added, nor a row. */
import type { ShownFields } from '../kernel/index.ts';
import type { Sealer } from './sealing.ts';

/** The longest time between showing a form and reading it, in minutes: long enough for a day's work on it. */
export const longestOpen = 24 * 60;

/** The fields that a form showed, on which page and when. */
export interface ShownForm extends ShownFields {
  form: string;
  /** Tells pages apart. */
  page: string;
  /** The time at which it was shown, in minutes since 1970. */
  minute: number;
}

/** A list with a valid seal of this visitor's session. */
export interface OpenedNames extends ShownFields {
  form: string;
  page: string;
  /** True if it was shown too long ago. */
  isOld: boolean;
}

/**
 * The value of the hidden field `loom-form`: `form:names:rows:page.minute.step:proof`. Every part but the form's name and the page is
 * percent-encoded, so that no separator is in it.
 */
export function sealNames(
  sealer: Sealer,
  session: string,
  { form, names, rows, step, page, minute }: ShownForm,
): string {
  const lists = [...rows].map(
    ([name, { count, canAdd, origins }]) =>
      `${encodeURIComponent(name)}=${count ?? ''}${canAdd ? '+' : ''}${origins === '' ? '' : `=${encodeURIComponent(origins)}`}`,
  );
  const shown = `${page}.${minute.toString(36)}${step === undefined ? '' : `.${encodeURIComponent(step)}`}`;
  const list = `${form}:${[...names].map(encodeURIComponent).join(',')}:${lists.join(',')}:${shown}`;
  return `${list}:${sealer.sign('names', `${session} ${list}`)}`;
}

/** The list that was sealed, or `undefined` if it was not sealed here for this session. */
export function openNames(sealer: Sealer, session: string, sealed: string, minute: number): OpenedNames | undefined {
  const end = sealed.lastIndexOf(':');
  if (!sealer.verify('names', `${session} ${sealed.slice(0, Math.max(0, end))}`, sealed.slice(end + 1)))
    return undefined;
  const [form = '', names = '', rows = '', shown = ''] = sealed.split(':');
  const [page = '', time = '', ...step] = shown.split('.');
  const age = minute - Number.parseInt(time, 36);
  return {
    form,
    names: new Set(names === '' ? [] : names.split(',').map(decoded)),
    rows: new Map(rows === '' ? [] : rows.split(',').map(openRows)),
    ...(step.length > 0 ? { step: decoded(step.join('.')) } : {}),
    page,
    isOld: !(age <= longestOpen),
  };
}

function openRows(text: string): [name: string, rows: { count: number | undefined; canAdd: boolean; origins: string }] {
  const [name = '', count = '', origins = ''] = text.split('=');
  const canAdd = count.endsWith('+');
  const digits = canAdd ? count.slice(0, -1) : count;
  return [decoded(name), { count: digits === '' ? undefined : Number(digits), canAdd, origins: decoded(origins) }];
}

/** Most names are as they are. */
function decoded(name: string): string {
  return name.includes('%') ? decodeURIComponent(name) : name;
}

/** The name of the form in such a list, whether or not the list is ours. */
export function formOfNames(sealed: string): string {
  return sealed.split(':')[0] ?? '';
}

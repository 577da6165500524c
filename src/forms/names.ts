/** The sealed list of the names that a form showed, so that no field can be slipped in that was not on the page. */
import type { Sealer } from './sealing.ts';

/** The value of the hidden field `_form`: the form’s name, the names it showed, a proof for this visitor. */
export function sealNames(sealer: Sealer, session: string, form: string, names: readonly string[]): string {
  const list = `${form}:${[...new Set(names)].map(encodeURIComponent).join(',')}`;
  return `${list}:${sealer.sign('names', `${session} ${list}`)}`;
}

/** The form and the names of a list that is ours and this visitor’s, else `undefined`. */
export function openNames(
  sealer: Sealer,
  session: string,
  sealed: string,
): { form: string; names: ReadonlySet<string> } | undefined {
  const [form = '', list = '', proof = '', ...rest] = sealed.split(':');
  if (rest.length > 0 || !sealer.verify('names', `${session} ${form}:${list}`, proof)) return undefined;
  return { form, names: new Set(list === '' ? [] : list.split(',').map(decodeURIComponent)) };
}

/** The name of the form in such a list, whether or not the list is ours. */
export function formOfNames(sealed: string): string {
  return sealed.split(':')[0] ?? '';
}

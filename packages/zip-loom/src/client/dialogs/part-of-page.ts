/** What a dialog shows of a page: its main content, or a region, as it is in another page than its own. */

import { mergeIntoAttribute, pageAttribute } from '../../protocol/index.ts';
import type { Tools } from '../tools.ts';

/** Elements of a body that frame its content, where nothing says what that is. */
const frame = `header,nav,footer,script,template[${pageAttribute}],template[${mergeIntoAttribute}]`;

/**
 * @param region the region that is wanted; nothing for the main content
 * @param url the URL of the page
 * @returns an element with the content
 */
export function partOf(tools: Tools, page: Document, region: Element | undefined, url: string): HTMLElement {
  const part = page.createElement('div');
  const main = page.querySelector('main, [role=main]');
  if (region) part.append(region);
  else if (main) part.append(...main.childNodes);
  else part.append(...[...page.body.childNodes].filter((one) => !(one instanceof Element && one.matches(frame))));
  resolveURLs(tools, part, new URL(page.querySelector('base[href]')?.getAttribute('href') ?? '', url).href, url);
  return part;
}

const attributesWithURL = ['href', 'src', 'action', 'formaction', 'poster', 'data'];

/** URLs that are relative to a page mean something else in another. */
function resolveURLs({ trusted }: Tools, part: Element, base: string, url: string): void {
  // Without a URL a form goes to that of its page.
  for (const form of part.querySelectorAll('form')) if (!form.getAttribute('action')) form.setAttribute('action', url);
  for (const name of attributesWithURL) {
    for (const element of part.querySelectorAll(`[${name}]`)) {
      const given = element.getAttribute(name)!;
      // A place on the page is one in the dialog.
      if (given.startsWith('#') || !URL.canParse(given, base)) continue;
      const { href } = new URL(given, base);
      element.setAttribute(name, trusted(element, name, href) ?? href);
    }
  }
  for (const element of part.querySelectorAll('[srcset]'))
    element.setAttribute(
      'srcset',
      element
        .getAttribute('srcset')!
        .replace(/(^|,\s*)(\S+)/g, (_all, before: string, one: string) =>
          URL.canParse(one, base) ? before + new URL(one, base).href : before + one,
        ),
    );
}

const attributesWithIds = [
  'for',
  'form',
  'list',
  'headers',
  'popovertarget',
  'commandfor',
  'aria-activedescendant',
  'aria-controls',
  'aria-describedby',
  'aria-details',
  'aria-errormessage',
  'aria-labelledby',
  'aria-owns',
];

/**
 * Gives ids that the page beneath has already another name, with all that refers to them: a label belongs to the field of its dialog.
 * @param renamed ids that have another name in this dialog; once they have, they keep it
 */
export function renameIds(part: Element, dialog: Element, renamed: Set<string>): void {
  for (const { id } of part.querySelectorAll('[id]')) {
    const found = document.getElementById(id);
    if (found && !dialog.contains(found)) renamed.add(id);
  }
  if (renamed.size === 0) return;
  const other = (id: string) => (renamed.has(id) ? `${id}-in-${dialog.id}` : id);
  for (const element of part.querySelectorAll('[id]')) element.id = other(element.id);
  for (const name of attributesWithIds)
    for (const element of part.querySelectorAll(`[${name}]`))
      element.setAttribute(name, element.getAttribute(name)!.split(/\s+/).map(other).join(' '));
  for (const link of part.querySelectorAll('[href^="#"]'))
    link.setAttribute('href', `#${other(link.getAttribute('href')!.slice(1))}`);
}

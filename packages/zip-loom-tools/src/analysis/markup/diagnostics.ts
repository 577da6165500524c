/** What is wrong with the HTML of templates, though it can be sent. */
import { catalogue, didYouMean, type Near, worded } from 'zip-loom/internal/diagnostics';

const severity = 'warning';

const wordings = {
  'misplaced-element': worded<{ child: string; parent: string; instead: string }>({
    severity,
    message: ({ child, parent }) => `Browsers take <${child}> out of <${parent}>: it cannot be in there.`,
    hint: ({ instead }) => instead,
    examples: [{ child: 'div', parent: 'p', instead: 'Close the <p> before it, or make the <p> a <div>.' }],
  }),
  'repeated-id': worded<{ id: string; line: number; isRepeated: boolean }>({
    severity,
    message: ({ id, line, isRepeated }) =>
      isRepeated ? `The id “${id}” is repeated with its element.` : `The id “${id}” is on line ${line} already.`,
    hint: ({ id, isRepeated }) =>
      isRepeated
        ? `Put something of the item into it, as in id="${id}-\${item.id}".`
        : 'Each id stands once in a page: links, labels and scripts find the first one alone.',
    examples: [
      { id: 'name', line: 3, isRepeated: false },
      { id: 'row', line: 3, isRepeated: true },
    ],
  }),
  'shared-id': worded<{
    id: string;
    page: string;
    /** The file that has it too; missing where this one is called several times. */
    other: string | undefined;
    /** Whether it is called in a list. */
    isListed: boolean;
  }>({
    severity,
    message: ({ id, page, other, isListed }) => {
      if (other !== undefined) return `The id “${id}” is in ${other} too, and the page “${page}” shows both.`;
      return `The page “${page}” shows the id “${id}” several times: ${isListed ? 'this template is called in a list' : 'it calls this template more than once'}.`;
    },
    hint: ({ id, other }) =>
      other === undefined
        ? `Take something for it, as in (takes name) and id="${id}-\${name}".`
        : 'Each id stands once in a page: links, labels and scripts find the first one alone.',
    examples: [
      { id: 'menu', page: 'home', other: 'templates/partials/site-nav.html', isListed: false },
      { id: 'query', page: 'home', other: undefined, isListed: false },
      { id: 'price', page: 'berths', other: undefined, isListed: true },
    ],
  }),
  'unmounted-url': worded<{ url: string; base: string }>({
    severity,
    message: ({ url, base }) => `“${url}” leads to the root of the host, and the site is mounted below “${base}”.`,
    hint: ({ url }) => `Write pathTo('${url}') in an expression; fixed text in an attribute is mounted by itself.`,
    examples: [{ url: '/boats', base: '/app' }],
  }),
  'lost-link': worded<{ path: string; nearest: Near | undefined }>({
    severity,
    message: ({ path }) => `Nothing answers ${path}.`,
    hint: ({ nearest }) => didYouMean(nearest) ?? 'Add its path to “paths” in the configuration, or repair the URL.',
    examples: [{ path: '/berhts', nearest: { name: '/berths', isSure: true } }],
  }),
  'lost-reference': worded<{ attribute: string; id: string; nearest: Near | undefined }>({
    severity,
    message: ({ attribute, id }) => `${attribute}="${id}" points at nothing: no template has an element with this id.`,
    hint: ({ nearest }) => didYouMean(nearest) ?? 'Give the element that is meant this id.',
    examples: [{ attribute: 'for', id: 'nmae', nearest: { name: 'name', isSure: true } }],
  }),
  'missing-alt': worded<{ hasRole: boolean }>({
    severity,
    message: () => 'This image has no “alt”.',
    hint: ({ hasRole }) =>
      hasRole
        ? 'It is decoration: write alt="".'
        : 'Say what it shows, or write alt="" where it is decoration: without it, file names are read out.',
    examples: [{ hasRole: false }, { hasRole: true }],
  }),
  'missing-charset': worded<Record<never, never>>({
    severity,
    message: () => 'This document does not say that it is in UTF-8.',
    hint: () => 'Write <meta charset="utf-8"> at the start of <head>.',
    examples: [{}],
  }),
  'unused-parameter': worded<{ name: string }>({
    severity,
    message: ({ name }) => `“${name}” is taken and never used.`,
    hint: () => 'Leave it out here, and where it is given.',
    examples: [{ name: 'compact' }],
  }),
  'unused-partial': worded<{ name: string }>({
    severity,
    message: ({ name }) => `No template calls <${name}>, and no code of the project names it.`,
    hint: () => 'Remove it, or call it.',
    examples: [{ name: 'berth-card' }],
  }),
};

export const markupDiagnostic = catalogue(wordings);

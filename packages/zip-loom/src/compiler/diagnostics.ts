/** What can be wrong between templates, and in the places of values. */
import { catalogue, didYouMean, type Near, sentence, worded } from '../diagnostics/index.ts';
import { placeWordings } from './place-wordings.ts';

/** A name as messages show it, however long it is. */
const shortened = (name: string): string => (name.length > 80 ? `${name.slice(0, 80)}…` : name);

const wordings = {
  'unknown-name': worded<{ name: string; nearest: Near | undefined; instead: string | undefined }>({
    message: ({ name }) => `There is no “${shortened(name)}” here.`,
    hint: ({ name, nearest, instead }) =>
      didYouMean(nearest) ??
      instead ??
      (/^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u.test(name)
        ? `If whoever renders or calls this template gives it, write <meta (takes ${shortened(name)})> at the start of the file.`
        : 'Give it as data, or register a helper.'),
    examples: [
      { name: 'bert', nearest: { name: 'berth', isSure: true }, instead: undefined },
      { name: 'title', nearest: undefined, instead: undefined },
      { name: 'request', nearest: undefined, instead: 'What belongs to the request is in “context”.' },
    ],
  }),
  'unknown-template': worded<{ name: string; nearest: Near | undefined }>({
    message: ({ name }) => `No template is called <${shortened(name)}>.`,
    hint: ({ name, nearest }) =>
      didYouMean(nearest) ??
      `Add a file ${shortened(name)}.html outside the pages, or list it under “elements” in the configuration if it is the browser’s.`,
    examples: [{ name: 'berth-card', nearest: undefined }],
  }),
  'refused-file-field': sentence(
    'A form that asks by its URL sends no files, only their names.',
    'Write method="post" on the <form>.',
    'warning',
  ),
  'missing-name': worded<{ element: string }>({
    severity: 'warning',
    message: ({ element }) => `This <${element}> has no name, so what is typed in it is never sent.`,
    hint: () => 'Give it a name; or form="" where a script alone reads it.',
    examples: [{ element: 'input' }],
  }),
  'missing-method': sentence(
    'This form does not say how it is sent.',
    'Write method="post" for one that changes something, method="get" for a search.',
    'warning',
  ),
  'unknown-element': worded<{ name: string; hint: string }>({
    severity: 'warning',
    message: ({ name }) => `HTML has no element <${shortened(name)}>, so it is printed as it is.`,
    hint: ({ hint }) => hint,
    examples: [
      {
        name: 'include',
        hint: 'A template is called by its name as an element: <berth-card berth=${berth}></berth-card>.',
      },
      {
        name: 'BoatForm',
        hint: 'Browsers make no difference of capital letters. A template is called by a name with a hyphen: <boat-form>.',
      },
    ],
  }),
  'refused-element': worded<{ written: string; meant: string }>({
    message: ({ written }) =>
      `<${shortened(written)}> would be printed as it is: HTML makes no difference of capital letters.`,
    hint: ({ meant }) => `Write <${meant}> to call the template.`,
    examples: [{ written: 'BoatForm', meant: 'boat-form' }],
  }),
  'unknown-layout': worded<{ name: string; isPage: boolean; nearest: Near | undefined }>({
    message: ({ name, isPage }) => (isPage ? `“${name}” is a page, not a layout.` : `There is no layout “${name}”.`),
    hint: ({ nearest }) =>
      didYouMean(nearest) ?? 'A layout is a template outside the pages; the name of its file is its name.',
    examples: [
      { name: 'site-layout', isPage: false, nearest: undefined },
      { name: 'home', isPage: true, nearest: undefined },
    ],
  }),
  'misplaced-page': worded<{ pages: string }>({
    severity: 'warning',
    message: () => 'This is a whole document that no template uses, and it is no page.',
    hint: ({ pages }) => `If it is one, move it below ${pages}`,
    examples: [{ pages: 'pages/' }],
  }),
  'refused-document': worded<{ layout: string }>({
    message: ({ layout }) => `This is a whole document, but its layout “${layout}” makes one around it.`,
    hint: () => 'Leave out <!doctype>, <html>, <head> and <body>, or write (layout none).',
    examples: [{ layout: 'site-layout' }],
  }),
  'layout-cycle': worded<{ chain: readonly string[] }>({
    message: ({ chain }) => `These layouts are the layouts of each other: ${chain.join(' → ')}.`,
    hint: () => 'Give one of them (layout none).',
    examples: [{ chain: ['a-layout', 'b-layout', 'a-layout'] }],
  }),
  'missing-hyphen': worded<{ name: string; proposal: string; pages: string }>({
    message: ({ name }) =>
      `“${name}” cannot be called: the name of a template has a hyphen, as that of a custom element.`,
    hint: ({ proposal, pages }) => `Rename it, for example to ${proposal}; a page belongs below ${pages}`,
    examples: [{ name: 'card', proposal: 'site-card', pages: 'pages/' }],
  }),
  'invalid-template-name': worded<{ name: string; proposal: string | undefined }>({
    message: ({ name }) => `“${shortened(name)}” cannot be a tag.`,
    hint: ({ proposal }) =>
      `Use lower-case letters, digits and hyphens, beginning with a letter${proposal === undefined ? '' : `: ${proposal}`}.`,
    examples: [
      { name: 'BerthCard', proposal: 'berth-card' },
      { name: '7', proposal: undefined },
    ],
  }),
  'duplicate-template': worded<{ name: string; files: readonly string[] }>({
    message: ({ name, files }) => `“${name}” could be ${files.join(' or ')}: they are equally near.`,
    hint: () => 'Give one of them another name, or move one into the folder of this template, or one above it.',
    examples: [{ name: 'berth-card', files: ['partials/berth-card.html', 'partials/cards.html'] }],
  }),
  'missing-asset': worded<{ path: string; nearest: Near | undefined }>({
    severity: 'warning',
    message: ({ path }) => `There is no asset “${path}”.`,
    hint: ({ nearest }) =>
      didYouMean(nearest) ?? 'Relative URLs are taken from the assets folder; begin with “/” for a URL of your own.',
    examples: [{ path: 'css/site.css', nearest: undefined }],
  }),
  'refused-placed-value': sentence(
    'An element with (into …) holds no values and no further clauses: it is on the page once, however often its template is used.',
    'Pass values in a data- attribute of an element that stays, and let the script read them there.',
  ),
  'missing-slot': worded<{ slot: string }>({
    message: ({ slot }) =>
      `Something that this page uses goes “(into ${slot})”, but the page has no layout with a slot “${slot}”.`,
    hint: ({ slot }) => `Give the page a layout with <slot name="${slot}"></slot>, or write the element into the page.`,
    examples: [{ slot: 'head' }],
  }),
  'missing-bind': worded<{ clause: string }>({
    message: ({ clause }) => `(${clause} …) is outside of any (bind …).`,
    hint: () => 'Put (bind form) on the form or on an element around this one.',
    examples: [{ clause: 'errors' }],
  }),
  'refused-button-attribute': worded<{ name: string; clause: string }>({
    message: ({ name, clause }) => `“${name}” is what (${clause} …) writes itself.`,
    hint: () => 'Leave the attribute out.',
    examples: [{ name: 'name', clause: 'add' }],
  }),
  'refused-form-spread': sentence(
    'A form that posts cannot take its attributes from a list: its action decides whether it may hold a token.',
    'Write action and method on the form, and remove the list.',
  ),
  'unknown-region-setting': worded<{ name: string; instead: string | undefined }>({
    message: ({ name }) => `A region has no setting “${name}”.`,
    hint: ({ instead }) =>
      instead === undefined
        ? 'After the name you can write poll="2s", from="/path", when="near" and channel="arrivals".'
        : `Write ${instead}.`,
    examples: [
      { name: 'size', instead: undefined },
      { name: 'every', instead: 'poll="2s"' },
    ],
  }),
  'invalid-region-name': worded<{ name: string }>({
    message: ({ name }) => `“${name}” cannot be the name of a region.`,
    hint: () => 'Use letters, digits, “_”, “.”, “:” and “-”; “page” and “none” are reserved.',
    examples: [{ name: 'a b' }],
  }),
  'invalid-poll': sentence(
    'This interval cannot be read.',
    'Write a number with its unit, such as poll="2s", "500ms" or "5m".',
  ),
  'invalid-when': sentence('A region is loaded at once, or when="near".', 'Write when="near", or leave it out.'),
  'refused-clause': worded<{ name: string; place: string }>({
    message: ({ name }) => `(${name} …) is not allowed here.`,
    hint: ({ place }) => `It belongs on ${place}.`,
    examples: [{ name: 'takes', place: 'the <meta> at the start of a template or on a named <template>' }],
  }),
  'missing-if': sentence(
    'There is no (if …) or (for …) before this (else).',
    'Only whitespace and comments may be between the two elements.',
  ),
  'missing-await': worded<{ name: string }>({
    message: ({ name }) => `There is no (await …) before this (${name}).`,
    hint: () => 'Only whitespace, comments and its (meanwhile) or (catch …) may be between the two elements.',
    examples: [{ name: 'meanwhile' }],
  }),
  'duplicate-companion': worded<{ name: string }>({
    message: ({ name }) => `This is the second (${name}) of one (await …).`,
    hint: () => 'Put both into one element or into a <template>.',
    examples: [{ name: 'meanwhile' }],
  }),
  'too-many-alternatives': worded<{ limit: number }>({
    message: ({ limit }) => `More than ${limit} alternatives follow one element.`,
    hint: () => 'Look the case up in a list or a Map that the code passes, and print what it holds.',
    examples: [{ limit: 200 }],
  }),
  'nested-too-deeply': sentence(
    'This template is nested too deeply to be compiled.',
    'Move parts of it into partials.',
  ),
  'invalid-else': worded<{ after: 'for and if' | 'for' }>({
    message: ({ after }) =>
      after === 'for'
        ? 'After (for …) only a plain (else) may follow.'
        : 'This (else) follows an element with both (for …) and (if …), so it could belong to either.',
    hint: ({ after }) =>
      after === 'for'
        ? 'Put the condition on an element inside the (else).'
        : 'Put a <template> with one of the two around the element.',
    examples: [{ after: 'for' }, { after: 'for and if' }],
  }),
  'missing-argument': worded<{ call: string; name: string; declaration: string }>({
    message: ({ call, name }) => `<${call}> needs “${name}”.`,
    hint: ({ declaration }) => `Its declaration: ${declaration}`,
    examples: [{ call: 'berth-card', name: 'berth', declaration: 'partials/berth-card.html (takes berth)' }],
  }),
  'unknown-argument': worded<{
    call: string;
    name: string;
    nearest: Near | undefined;
    /** The parameter of this name with capital letters. */
    parameter: string | undefined;
    declaration: string;
  }>({
    message: ({ call, name }) => `<${call}> takes no “${name}”.`,
    hint: ({ nearest, parameter, declaration }) => {
      if (nearest && parameter !== undefined) return `In a tag, “${parameter}” is written ${nearest.name}.`;
      return `${nearest ? `${didYouMean(nearest)} ` : ''}Its declaration: ${declaration}`;
    },
    examples: [
      {
        call: 'berth-card',
        name: 'bert',
        nearest: { name: 'berth', isSure: true },
        parameter: undefined,
        declaration: 'partials/berth-card.html (takes berth)',
      },
      {
        call: 'berth-card',
        name: 'iscompact',
        nearest: { name: 'is-compact', isSure: true },
        parameter: 'isCompact',
        declaration: 'partials/berth-card.html (takes isCompact)',
      },
    ],
  }),
  'invalid-argument': worded<{ call: string; name: string; kind: 'boolean' | 'number'; value: string }>({
    message: ({ call, name }) => `For <${call}>, “${name}” would be text.`,
    hint: ({ name, kind, value }) =>
      kind === 'boolean' ? `Write ${name} for true, or ${name}=\${false}.` : `Write ${name}=\${${value}}.`,
    examples: [
      { call: 'berth-card', name: 'compact', kind: 'boolean', value: '' },
      { call: 'berth-list', name: 'rows', kind: 'number', value: '5' },
    ],
  }),
  'duplicate-argument': worded<{ call: string; name: string }>({
    message: ({ call, name }) => `<${call}> is given “${name}” twice.`,
    hint: () => 'Keep one of the two.',
    examples: [{ call: 'berth-card', name: 'berth' }],
  }),
  'unknown-slot': worded<{ name: string; owner: string; file: string | undefined; nearest: Near | undefined }>({
    message: ({ name, owner }) =>
      name === 'default' ? `“${owner}” has no slot for content.` : `“${owner}” has no slot “${name}”.`,
    hint: ({ name, file, nearest }) =>
      didYouMean(nearest) ??
      (name === 'default'
        ? `Add <slot></slot> to ${file ?? 'it'}, or leave the content out.`
        : `Add <slot name="${name}"></slot> to ${file ?? 'it'}.`),
    examples: [
      { name: 'footer', owner: 'site-layout', file: 'layouts/site-layout.html', nearest: undefined },
      { name: 'default', owner: 'berth-card', file: 'partials/berth-card.html', nearest: undefined },
    ],
  }),
  'refused-title': worded<{ slot: string }>({
    message: ({ slot }) => `The slot “${slot}” is in a <title>, where there is only text.`,
    hint: ({ slot }) => `Write <title slot="${slot}">…</title>, or a <template slot="${slot}"> with text in it.`,
    examples: [{ slot: 'title' }],
  }),
  'refused-slot-name': sentence(
    'The name of a slot cannot be substituted.',
    'Write the name as plain text; choose between elements with (if …).',
  ),
  'refused-slot-clause': sentence(
    'A (for …), (let …) or (await …) around elements with “slot” cannot fill a slot.',
    'Put the clause on the element that has the “slot”.',
  ),
  'refused-group-attribute': worded<{ name: string }>({
    message: ({ name }) => `“${name}” would be lost: a <template> with a clause prints only its content.`,
    hint: () => 'Put the attribute on an element inside it.',
    examples: [{ name: 'class' }],
  }),
  'lost-attribute': worded<{ name: string }>({
    message: ({ name }) => `“${name}” would be lost: what defines a template is not printed.`,
    hint: () => 'Write a <meta> of the page itself below it; here only (takes …), (import …) and (layout …) belong.',
    examples: [{ name: 'charset' }],
  }),
  'refused-helper': worded<{ name: string }>({
    message: ({ name }) => `“${name}” is what this template takes, and hides the helper of that name.`,
    hint: ({ name }) => `Call helpers.${name}(…), or give the parameter another name.`,
    examples: [{ name: 'date' }],
  }),
  ...placeWordings,
};

export const templateDiagnostic = catalogue(wordings);

/** What can be wrong with a call of a loom, its options and its data, and what is logged of requests. */
import { catalogue, didYouMean, type Near, sentence, worded } from '../diagnostics/index.ts';

const wordings = {
  'missing-argument': worded<{ page: string; missing: readonly string[]; given: readonly string[] }>({
    message: ({ page, missing, given }) =>
      `${page} takes ${missing.join(', ')}, which was not given; it was given ${given.join(', ') || 'nothing'}.`,
    hint: () => 'Add it to the data of render, partial or respond.',
    examples: [{ page: 'berths/list', missing: ['berths'], given: ['berth'] }],
  }),
  'unknown-argument': worded<{ page: string; name: string; nearest: Near | undefined; takes: readonly string[] }>({
    message: ({ page, name }) => `${page} was given “${name.slice(0, 80)}”, which it does not take.`,
    hint: ({ nearest, name, takes }) =>
      didYouMean(nearest) ??
      (/^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u.test(name)
        ? `Add it to the template: (takes ${[...takes, name].join(', ')}); or leave it out of the data.`
        : 'Leave it out of the data.'),
    examples: [
      { page: 'berths/list', name: 'qurey', nearest: { name: 'query', isSure: true }, takes: ['berths', 'query'] },
      { page: 'berths/list', name: 'title', nearest: undefined, takes: ['berths'] },
    ],
  }),
  'failed-expression': worded<{ reason: string }>({
    message: ({ reason }) => reason,
    hint: () => '',
    examples: [{ reason: "Cannot read properties of undefined (reading 'name')." }],
  }),
  'duplicate-template': worded<{ name: string; files: readonly string[] }>({
    message: ({ name, files }) => `“${name}” could be ${files.join(' or ')}.`,
    hint: () => 'Give one of them another name: code knows them by their names alone.',
    examples: [{ name: 'card-list', files: ['boats/card-list.html', 'berths/card-list.html'] }],
  }),
  'unknown-page': worded<{ name: string; folder: string; elsewhere: string | undefined; nearest: Near | undefined }>({
    message: ({ name, folder }) => `There is no page “${name}” in ${folder}.`,
    hint: ({ nearest, elsewhere, folder }) =>
      elsewhere === undefined
        ? (didYouMean(nearest) ?? 'Pages are rendered by their path below that folder, without “.html”.')
        : `${elsewhere} is no page, for it lies outside: move it to ${folder}, or render it with renderTemplate(…).`,
    examples: [
      { name: 'berths', folder: 'templates/pages/', elsewhere: undefined, nearest: undefined },
      { name: 'about-us', folder: 'templates/pages/', elsewhere: 'templates/about-us.html', nearest: undefined },
    ],
  }),
  'unknown-error-page': worded<{ name: string }>({
    message: ({ name }) => `The option “errorPage” names the page “${name}”, but there is none.`,
    hint: () => 'Give the name of a page, such as error.',
    examples: [{ name: 'errors/500' }],
  }),
  'invalid-error-page': worded<{ name: string; others: readonly string[] }>({
    message: ({ name, others }) => `The error page “${name}” takes ${others.join(', ')}, which nobody can give it.`,
    hint: () => 'Let it take number, which visitors can quote, status, title and text, or nothing.',
    examples: [{ name: 'error', others: ['message'] }],
  }),
  'unknown-partial': worded<{ name: string; nearest: Near | undefined }>({
    message: ({ name }) => `There is no template “${name}”.`,
    hint: ({ nearest }) => didYouMean(nearest) ?? 'Give the name of a template, such as “berth-card”, or of a page.',
    examples: [{ name: 'card', nearest: undefined }],
  }),
  'unknown-layout': worded<{ name: string; page: string; nearest: Near | undefined }>({
    message: ({ name, page }) => `The configuration names the layout “${name}” for “${page}”, but there is none.`,
    hint: ({ nearest }) => didYouMean(nearest) ?? 'Return the name of a layout, or none.',
    examples: [{ name: 'site', page: 'berths/list', nearest: undefined }],
  }),
  'unused-pattern': worded<{ pattern: string }>({
    severity: 'warning',
    message: ({ pattern }) => `The pattern “${pattern}” of “layouts” fits no page.`,
    hint: () => 'Patterns are those of page names, such as staff/** for all pages below staff.',
    examples: [{ pattern: 'staf/**' }],
  }),
  'invalid-data': worded<{ page: string }>({
    message: ({ page }) => `The data for “${page}” is not an object.`,
    hint: () => 'Give names and values, such as { berths }.',
    examples: [{ page: 'berths/list' }],
  }),
  'missing-templates': sentence(
    'A loom needs templates.',
    'Give “sources”, or under Node “templates” with the path of a folder.',
  ),
  'invalid-build': sentence('These templates were built by another version.', 'Run “zip-loom build” again.'),
  'missing-helper': worded<{ names: readonly string[] }>({
    message: ({ names }) => `The built templates use helpers that are missing: ${names.join(', ')}.`,
    hint: () => 'Pass them as “helpers”, as when the templates were built.',
    examples: [{ names: ['shout'] }],
  }),
  'missing-layout-function': worded<{ page: string }>({
    message: ({ page }) => `When “${page}” was built, a function named its layout.`,
    hint: () => 'Pass the same “layouts” as then.',
    examples: [{ page: 'berths/list' }],
  }),
  'invalid-helper': worded<{ name: string; kind: 'value' | 'name' }>({
    message: ({ name, kind }) =>
      kind === 'value'
        ? `The helper “${name}” is not a function.`
        : `“${name.slice(0, 80)}” cannot be the name of a helper.`,
    hint: ({ kind }) =>
      kind === 'value'
        ? 'Helpers are plain functions; pass other values as data or in the context.'
        : 'Give a name that can be called in an expression; context, slots, helpers and errors mean something else.',
    examples: [
      { name: 'siteName', kind: 'value' },
      { name: 'upper-case', kind: 'name' },
    ],
  }),
  'invalid-place': worded<{ what: 'locale' | 'time zone'; given: string }>({
    severity: 'warning',
    message: ({ what, given }) => `The context’s ${what} “${given.slice(0, 80)}” is none, so another is used.`,
    hint: ({ what }) =>
      what === 'locale'
        ? 'Give one language tag, such as en-GB; for what the browser asks for, set the option “locales”.'
        : 'Give the name of a time zone, such as Europe/London.',
    examples: [
      { what: 'locale', given: 'de-DE,de;q=0.9' },
      { what: 'time zone', given: 'London' },
    ],
  }),
  'refused-publication': worded<{ name?: string; what: string }>({
    message: ({ name, what }) =>
      `What is published is for everybody, but ${name === undefined ? 'this template' : `“${name}”`} ${what}.`,
    hint: () => 'Publish reload("…") with the name of the region instead: each browser then asks for its own.',
    examples: [{ what: 'reads context.user' }, { name: 'stay-row', what: 'holds a form that posts' }],
  }),
};

export const loomDiagnostic = catalogue(wordings);

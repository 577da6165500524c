/** What can go wrong while a page is rendered, and what is not printed as it came. */
import { catalogue, didYouMean, messageOf, type Near, sentence, worded } from '../diagnostics/index.ts';

/** A text as messages show it, however long it is. */
const shortened = (text: string): string => text.slice(0, 80);

/** Values that have no obvious text. */
export type Unprintable = 'function' | 'symbol' | 'promise' | 'date' | 'collection' | 'object';

const unprintable: Record<Unprintable, readonly [what: string, hint: string]> = {
  function: ['A function', 'Call it, or leave it out.'],
  symbol: ['A symbol', 'Print its description, or leave it out.'],
  promise: ['A promise', 'Put (await value = …) on the element, and print the value.'],
  date: ['A Date', 'Choose how it is written: date(…), time(…) or dateTime(…).'],
  collection: ['A Map or Set', 'Repeat an element with (for … of …).'],
  object: ['An object', 'Print one of its fields, or json(…) to look at it.'],
};

const wordings = {
  'invalid-value': worded<{ kind: Unprintable }>({
    message: ({ kind }) => `${unprintable[kind][0]} cannot be printed.`,
    hint: ({ kind }) => unprintable[kind][1],
    examples: [
      { kind: 'object' },
      { kind: 'promise' },
      { kind: 'date' },
      { kind: 'collection' },
      { kind: 'function' },
      { kind: 'symbol' },
    ],
  }),
  'invalid-list': worded<{ kind: 'promise' | 'object' | string }>({
    message: ({ kind }) =>
      kind === 'promise'
        ? '(for … of …) was given a promise.'
        : `(for … of …) was given ${kind === 'object' ? 'an object' : `a ${kind}`} that is not a list.`,
    hint: ({ kind }) =>
      kind === 'promise'
        ? 'Put (await items = …) on an element or a <template> around it.'
        : 'Give it an array or another iterable; for an object, use Object.entries(…).',
    examples: [{ kind: 'object' }, { kind: 'promise' }],
  }),
  'invalid-date': worded<{ value: string }>({
    message: ({ value }) => `${value} is not a date.`,
    hint: () => 'Give a Date, milliseconds, or text such as 2026-06-12; null where there is none.',
    examples: [{ value: '“2026-06-31”' }],
  }),
  'invalid-helper-call': worded<{ written: string; reason: string }>({
    message: ({ written, reason }) => `${written.slice(0, written.indexOf('('))}(…) cannot print this: ${reason}.`,
    hint: ({ written }) => `Write ${written}, with null where there is nothing to print.`,
    examples: [{ written: "money(amount, 'GBP')", reason: '“twelve” is not a number' }],
  }),
  'missing-part': worded<{ what: string }>({
    message: ({ what }) => `A part of ${what} is undefined.`,
    hint: () => 'Mostly it is a misspelt field; for a part that may be missing write ${part ?? ""}.',
    examples: [{ what: 'the URL “/berths/”' }, { what: 'an attribute' }],
  }),
  'refused-path-segment': worded<{ segment: string }>({
    message: ({ segment }) => `“${segment}” cannot be a segment of a URL.`,
    hint: () => 'Leave it out, or resolve it first.',
    examples: [{ segment: '..' }],
  }),
  'invalid-form': worded<{ kind: 'nothing' | 'a promise' | 'something that is not a form' }>({
    message: ({ kind }) => `(bind …) was given ${kind}.`,
    hint: ({ kind }) =>
      kind === 'a promise'
        ? 'Write: await exchange.read(boatForm).'
        : 'Give it what a form definition makes: boatForm.blank(), boatForm.from(boat), or what was read.',
    examples: [{ kind: 'nothing' }, { kind: 'a promise' }, { kind: 'something that is not a form' }],
  }),
  'late-value': worded<{ limit: number }>({
    message: ({ limit }) => `A value did not come within ${limit} ms.`,
    hint: () => 'Look at what should bring it, raise “timeout”, or show something else with (catch error).',
    examples: [{ limit: 5000 }],
  }),
  'refused-waiting': sentence(
    'This page has to wait for a value, but it was to be rendered at once.',
    'Use render(…), stream(…) or respond(…), or give the value itself instead of a promise.',
  ),
  'refused-late-submitter': sentence(
    'A button that sends its form to another site cannot be in content that comes later: the form’s token is written already.',
    'Put the button outside of (await …), or give it a form of its own.',
  ),
  'refused-late-file': sentence(
    'A file field cannot be in content that comes later: the start of its form is written already.',
    'Write enctype="multipart/form-data" on the <form>.',
  ),
  'refused-late-base': sentence(
    'A <base> that leads to another site cannot be in content that comes later: tokens of forms are written already.',
    'Write it in the <head>, outside of (await …).',
  ),
  'missing-asset': worded<{ path: string }>({
    message: ({ path }) => `There is no asset “${path}”.`,
    hint: () => 'Give the path of a file below the assets folder, or of an entry of the manifest.',
    examples: [{ path: 'img/tern.jpg' }],
  }),
  'nested-too-deeply': worded<{ limit: number }>({
    message: ({ limit }) => `Templates call each other more than ${limit} levels deep.`,
    hint: () => 'Let the call depend on data that comes to an end, or raise “maximumDepth” in the configuration.',
    examples: [{ limit: 200 }],
  }),
  'invalid-region-name': worded<{ name: string }>({
    message: ({ name }) => `“${name}” cannot be the name of a region.`,
    hint: () => 'Use letters, digits, “_”, “.”, “:” and “-”; “page” and “none” are reserved.',
    examples: [{ name: 'a b' }],
  }),
  'duplicate-region': worded<{ name: string }>({
    message: ({ name }) => `The region “${name}” is twice on this page.`,
    hint: () => 'Give each its own name, such as (region stay-${stay.id}).',
    examples: [{ name: 'stay' }],
  }),
  'invalid-spread': sentence(
    'Only an object of names and values can be spread here.',
    'Give an object, null or undefined.',
  ),
  'refused-spread-attribute': worded<{ name: string }>({
    message: ({ name }) => `“${name}” cannot be set from a list of attributes.`,
    hint: () =>
      'Event handlers, names that are not well formed and attributes that hold code are refused; write them in the template.',
    examples: [{ name: 'onclick' }],
  }),
  'invalid-json-value': worded<{ reason: string }>({
    message: ({ reason }) => `This value cannot be written as JSON: ${reason}.`,
    hint: () => 'Give plain data: objects, arrays, strings, numbers.',
    examples: [{ reason: 'Do not know how to serialize a BigInt' }],
  }),
  'refused-code-url': worded<{ what: string }>({
    message: ({ what }) => `${what} loads code, so its URL must be trusted.`,
    hint: () =>
      'Begin it with fixed text that settles the origin, or use trustedURL(…) for a URL that no visitor can choose.',
    examples: [{ what: '“src” of <script>' }],
  }),
  'refused-url': worded<RefusedURL>({
    severity: 'warning',
    message: ({ url, why }) => `A URL was refused: “${shortened(url)}”. ${refusedURL(why).message}`,
    hint: ({ why }) => refusedURL(why).hint,
    examples: [
      { url: 'javascript:…', why: { kind: 'scheme', allowed: ['http', 'https'] } },
      { url: '//other.example/', why: { kind: 'elsewhere' } },
      { url: '/berths/../staff', why: { kind: 'dot-segment' } },
    ],
  }),
  'refused-style': worded<{ property: string | undefined; value: string }>({
    severity: 'warning',
    message: ({ property, value }) =>
      property === undefined
        ? 'A style from a list of attributes was dropped.'
        : `A value of “${property}” was dropped from a style: “${shortened(value)}”.`,
    hint: ({ property }) =>
      property === undefined
        ? 'Give an object of declarations.'
        : 'Give a number, or a string of letters, digits and plain signs.',
    examples: [
      { property: '--depth', value: 'expression(…)' },
      { property: undefined, value: '' },
    ],
  }),
  'duplicate-form': worded<{ form: string }>({
    severity: 'warning',
    message: ({ form }) => `Two forms “${form}” on this page have the same ids.`,
    hint: () => 'Give each its own key where it is made: .from(post, { key: post.id }).',
    examples: [{ form: 'boat' }],
  }),
  'missing-field': worded<{ form: string; field: string }>({
    severity: 'warning',
    message: ({ form, field }) => `The form “${form}” requires “${field}”, but the page shows no control for it.`,
    hint: ({ field }) =>
      `Write <input name="${field}"> into the form, or make the field optional; whoever sends the form now is refused.`,
    examples: [{ form: 'boat', field: 'length' }],
  }),
  'missing-value': worded<{ place: string; text: string; nearest: Near | undefined; names: readonly string[] }>({
    severity: 'warning',
    message: ({ place, text }) => `${place}: “${text}” is undefined.`,
    hint: ({ text, nearest, names }) =>
      meantName(nearest, names) ?? `Where it may be missing, write \${${text} ?? null}.`,
    examples: [
      { place: 'pages/home.html:3:5', text: 'boat.nmae', nearest: { name: 'name', isSure: true }, names: ['name'] },
      { place: 'pages/home.html:3:5', text: 'boat', nearest: undefined, names: [] },
    ],
  }),
  'undefined-value': worded<{
    text: string;
    isNull: boolean;
    nearest: Near | undefined;
    names: readonly string[];
    /** Where it was given, if that was an argument which is undefined. */
    given: string | undefined;
  }>({
    message: ({ text, isNull }) => `“${text}” is ${isNull ? 'null' : 'undefined'}.`,
    hint: ({ text, isNull, nearest, names, given }) =>
      given ?? (isNull ? undefined : meantName(nearest, names)) ?? `Where it may be missing, write ${text}?.…`,
    examples: [
      { text: 'boat.nmae', isNull: false, nearest: { name: 'name', isSure: true }, names: ['name'], given: undefined },
      { text: 'boat.owner', isNull: true, nearest: undefined, names: ['owner'], given: undefined },
      { text: 'boat.port', isNull: false, nearest: undefined, names: ['name', 'owner'], given: undefined },
    ],
  }),
  'undefined-argument': worded<{
    text: string;
    /** What failed because of it; nothing for what was to be called itself. */
    reason: string | undefined;
    nearest: Near | undefined;
    names: readonly string[];
  }>({
    message: ({ text, reason }) =>
      reason === undefined ? `“${text}” is not a function.` : `“${text}” is undefined: ${reason}`,
    hint: ({ text, reason, nearest, names }) =>
      meantName(nearest, names) ??
      (reason === undefined ? 'Call something that is there.' : `Where it may be missing, write ${text} ?? null.`),
    examples: [
      { text: 'boat.bilt', reason: 'undefined is not a date.', nearest: { name: 'built', isSure: true }, names: [] },
      { text: 'boat.nmae', reason: undefined, nearest: { name: 'name', isSure: true }, names: [] },
    ],
  }),
  'caught-error': worded<{ error: unknown }>({
    severity: 'warning',
    message: ({ error }) => `(catch …) replaced what could not be written: ${messageOf(error)}`,
    hint: () => 'Fix the content of the (await …), or let it check what it is given.',
    examples: [{ error: new Error('…') }],
  }),
};

/** The name that was meant, or those that there are. */
function meantName(near: Near | undefined, names: readonly string[]): string | undefined {
  return didYouMean(near) ?? (names.length > 0 ? `It has ${names.join(', ')}.` : undefined);
}

/** A URL that was not printed, and why. */
interface RefusedURL {
  url: string;
  why: RefusalOfURL;
}

/** Why a URL is not printed: its scheme, where a value leads it, or a value that is a step in its path. */
export type RefusalOfURL =
  | { kind: 'scheme'; allowed: readonly string[] }
  | { kind: 'elsewhere' }
  | { kind: 'dot-segment' };

function refusedURL(why: RefusalOfURL): { message: string; hint: string } {
  switch (why.kind) {
    case 'scheme':
      return {
        message: `Only ${why.allowed.join(', ')} and relative URLs are allowed.`,
        hint: 'Allow further schemes under “schemes” in the configuration, or give the whole URL as trustedURL(…).',
      };
    case 'elsewhere':
      return {
        message: 'A value after its beginning would lead it to another host.',
        hint: 'Write the host as fixed text, give the whole URL as one value, or as trustedURL(…).',
      };
    case 'dot-segment':
      return {
        message: 'A value makes a segment “.” or “..” of its path.',
        hint: 'Give a value that is one segment of a path, not “.” or “..”.',
      };
  }
}

export const renderDiagnostic = catalogue(wordings);

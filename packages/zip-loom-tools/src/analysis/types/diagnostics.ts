/** What TypeScript finds in templates, in the words of templates. */
import { catalogue, didYouMean, type Near, worded } from 'zip-loom/internal/diagnostics';

/** Of more names nobody reads a list. */
const mostNames = 15;

const wordings = {
  'mistyped-argument': worded<{ name: string; call: string; wanted: string; given: string; declaration: string }>({
    message: ({ name, call, wanted, given }) => `<${call}> takes “${name}” as ${wanted}, and is given ${given}.`,
    hint: ({ declaration }) => `It is declared as ${declaration}.`,
    examples: [
      {
        name: 'berth',
        call: 'berth-card',
        wanted: 'Berth',
        given: 'Stay[]',
        declaration: 'partials/berth-card.html (takes berth: Berth)',
      },
    ],
  }),
  'mistyped-given': worded<{ name: string; slot: string; wanted: string; given: string }>({
    message: ({ name, slot, wanted, given }) =>
      `The slot “${slot}” gives “${name}” as ${given}, and it is taken as ${wanted}.`,
    hint: () => 'Take it as what it is; a name without a type has the type that the slot gives.',
    examples: [{ name: 'row', slot: 'row', wanted: 'Stay', given: 'Berth' }],
  }),
  'mistyped-value': worded<{ text: string }>({
    message: ({ text }) => text,
    hint: () => 'TypeScript says so of the types that (takes …) and your own modules declare.',
    examples: [{ text: 'Expected 1 arguments, but got 2.' }],
  }),
  'mistyped-sample': worded<{ text: string }>({
    message: ({ text }) => `This sample does not fit the template: ${text}`,
    hint: () => 'Its data is what (takes …) declares.',
    examples: [
      { text: "Property 'reason' is missing in type '{ line: number; }' but required in type 'RefusedLine'." },
    ],
  }),
  'missing-property': worded<{
    name: string;
    type: string;
    nearest: Near | undefined;
    /** Names that it has, as far as they are known. */
    known: readonly string[];
  }>({
    message: ({ name, type }) => `${type} has no “${name}”.`,
    hint: ({ name, type, nearest, known }) => {
      if (nearest) return didYouMean(nearest)!;
      if (type === 'Context')
        return `Say what your own context has: declare module 'zip-loom' { interface LoomContext { ${name}?: … } }`;
      if (known.length === 0 || known.length > mostNames) return 'Look at its type for the names that it has.';
      return `It has ${known.join(', ')}.`;
    },
    examples: [
      { name: 'nmae', type: 'Berth', nearest: { name: 'name', isSure: true }, known: [] },
      { name: 'owner', type: 'Berth', nearest: undefined, known: ['name', 'free'] },
      { name: 'user', type: 'Context', nearest: undefined, known: [] },
    ],
  }),
  'possibly-missing': worded<{ code: string; what: string }>({
    message: ({ code, what }) => `${code === '' ? 'This' : `“${code}”`} may be ${what} here.`,
    hint: ({ code }) => `Ask first, as with (if ${code || '…'}), or write “?.” after it.`,
    examples: [{ code: 'berth.freeFrom', what: 'undefined' }],
  }),
  'unprintable-value': worded<{ given: string }>({
    message: ({ given }) =>
      given === 'boolean' || given === 'true' ? 'A boolean prints nothing.' : `${given} cannot be printed.`,
    hint: ({ given }) =>
      given === 'boolean' || given === 'true'
        ? 'Write ${… ? "yes" : "no"}, or use (if …).'
        : 'Print a field of it, or make text of it with a helper such as date(…), list(…) or json(…).',
    examples: [{ given: 'Berth' }],
  }),
  'unrepeatable-value': worded<{ given: string }>({
    message: ({ given }) => `(for …) cannot go through ${given}.`,
    hint: () => 'It takes an array, a Map, or whatever else can be iterated; null and undefined count as empty.',
    examples: [{ given: 'Berth' }],
  }),
  'unknown-control': worded<{ name: string; form: string; nearest: Near | undefined }>({
    message: ({ name, form }) => `The form “${form}” has no field “${name}”.`,
    hint: ({ nearest }) => didYouMean(nearest) ?? 'Its schema names the fields that it has.',
    examples: [{ name: 'nmae', form: 'boatForm', nearest: { name: 'name', isSure: true } }],
  }),
  'unknown-given': worded<{ name: string; slot: string }>({
    message: ({ name, slot }) => `The slot “${slot}” gives no “${name}”.`,
    hint: () => 'What it gives are the attributes of its <slot>.',
    examples: [{ name: 'rwo', slot: 'row' }],
  }),
  'unknown-type': worded<{ name: string; nearest: Near | undefined }>({
    message: ({ name }) => `There is no type “${name}” here.`,
    hint: ({ name, nearest }) =>
      didYouMean(nearest) ?? `Import it in the same tag: (import { ${name} } from "…"), with a path from this file.`,
    examples: [{ name: 'Berth', nearest: undefined }],
  }),
  'unknown-import': worded<{ text: string }>({
    message: ({ text }) => text,
    hint: () => 'Paths in (import …) begin at this template’s own file.',
    examples: [{ text: 'Cannot find module "./model.ts".' }],
  }),
};

export const typeDiagnostic = catalogue(wordings);

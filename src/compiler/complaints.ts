/** Everything that can be wrong between templates and in the places of values, in one list and one voice. */
import type { Complaint } from '../language/index.ts';

const refused = (where: string, hint: string): Complaint => ({
  code: 'refused-place',
  message: `A value cannot stand in ${where}.`,
  hint,
});

/** A name as messages show it, however long it is. */
const shortened = (name: string): string => (name.length > 80 ? `${name.slice(0, 80)}…` : name);

export const complaints = {
  unknownName: (name: string, hint: string | undefined): Complaint => ({
    code: 'unknown-name',
    message: `There is no “${shortened(name)}” here.`,
    hint:
      hint ??
      'A template sees what it (takes …), what its clauses name, “context”, helpers and ECMAScript’s own pure functions.',
  }),
  unknownTemplate: (name: string, hint: string | undefined): Complaint => ({
    code: 'unknown-template',
    message: `No template is called <${shortened(name)}>.`,
    hint:
      hint ??
      `Add a file ${name}.html outside the pages, or name it under “elements” in the configuration if it is the browser’s.`,
  }),
  unknownLayout: (name: string, hint: string | undefined): Complaint => ({
    code: 'unknown-layout',
    message: `There is no layout “${name}”.`,
    hint: hint ?? 'A layout is a template outside the pages; its file’s name is its name.',
  }),
  layoutCircle: (chain: string[]): Complaint => ({
    code: 'layout-circle',
    message: `These layouts stand around each other: ${chain.join(' → ')}.`,
    hint: 'Let one of them have (layout none).',
  }),
  nameWithoutHyphen: (name: string): Complaint => ({
    code: 'name-without-hyphen',
    message: `“${name}” cannot be called: the name of a template holds a hyphen, as a custom element’s does.`,
    hint: `Rename the file, for example to ${name}-box.html.`,
  }),
  invalidName: (name: string): Complaint => ({
    code: 'invalid-template-name',
    message: `“${name}” cannot be a tag.`,
    hint: 'Use lower-case letters, digits and hyphens, beginning with a letter.',
  }),
  nameTwice: (name: string, other: string): Complaint => ({
    code: 'name-twice',
    message: `“${name}” is also defined in ${other}.`,
    hint: 'Give one of them another name.',
  }),
  missingAsset: (path: string, hint: string | undefined): Complaint => ({
    code: 'missing-asset',
    message: `There is no asset “${path}”.`,
    hint: hint ?? 'Relative addresses are taken from the folder of assets; begin with “/” for an address of your own.',
    isHarmless: true,
  }),
  placedValue: (): Complaint => ({
    code: 'placed-value',
    message:
      'An element with (into …) holds no values and no further clauses: it stands once, however often its template is used.',
    hint: 'Hand values over in a data- attribute of an element that stays, and let the script read them there.',
  }),
  placedWithoutLayout: (slot: string): Complaint => ({
    code: 'placed-without-layout',
    message: `Something that this page uses is placed “(into ${slot})”, and there is no layout with a slot “${slot}” around it.`,
    hint: `Give the page a layout with <slot name="${slot}"></slot>, or write the element into the page.`,
  }),
  errorsOutsideBind: (): Complaint => ({
    code: 'messages-outside-bind',
    message: '(errors …) stands inside no (bind …).',
    hint: 'Put (bind form) on the form or on an element around this one.',
  }),
  spreadOnForm: (): Complaint => ({
    code: 'spread-on-form',
    message:
      'A form that posts cannot take its attributes from a list: its action decides whether it may hold a token.',
    hint: 'Write action and method on the form, and take the list away.',
  }),
  regionSetting: (name: string): Complaint => ({
    code: 'region-setting',
    message: `A region has no setting “${name}”.`,
    hint: 'Behind the name may stand poll="2s", from="/address", when="near" and live="channel".',
  }),
  regionInterval: (): Complaint => ({
    code: 'region-interval',
    message: 'This interval cannot be read.',
    hint: 'Write a number with its unit, as poll="2s", "500ms" or "5m".',
  }),
  regionWhen: (): Complaint => ({
    code: 'region-when',
    message: 'A region is loaded at once, or when="near".',
    hint: 'Write when="near", or leave it out.',
  }),
  misplacedClause: (word: string, place: string): Complaint => ({
    code: 'misplaced-clause',
    message: `(${word} …) cannot stand here.`,
    hint: `It stands on ${place}.`,
  }),
  elseWithoutIf: (): Complaint => ({
    code: 'else-without-if',
    message: 'There is no (if …) or (for …) before this (else).',
    hint: 'Only white space and comments may stand between the two elements.',
  }),
  nothingAwaited: (word: string): Complaint => ({
    code: 'nothing-awaited',
    message: `There is no (await …) before this (${word}).`,
    hint: 'Only white space, comments and its other companions may stand between the two elements.',
  }),
  secondCompanion: (word: string): Complaint => ({
    code: 'second-companion',
    message: `This is the second (${word}) of one (await …).`,
    hint: 'Put both into one element or into a <template>.',
  }),
  tooManyAlternatives: (limit: number): Complaint => ({
    code: 'too-many-alternatives',
    message: `More than ${limit} alternatives follow one element.`,
    hint: 'Look the case up in a list or a Map that the code hands over, and print what it holds.',
  }),
  tooDeep: (): Complaint => ({
    code: 'nested-too-deeply',
    message: 'This template is nested too deeply to be compiled.',
    hint: 'Move parts of it into partials.',
  }),
  elseAfterBoth: (): Complaint => ({
    code: 'else-after-for-and-if',
    message: 'This (else) follows an element with both (for …) and (if …), so it could belong to either.',
    hint: 'Put a <template> with one of the two around the element.',
  }),
  elseIfAfterFor: (): Complaint => ({
    code: 'else-if-after-for',
    message: 'After (for …) only a plain (else) may follow.',
    hint: 'Put the condition on an element inside the (else).',
  }),
  missingArgument: (call: string, name: string, declaration: string): Complaint => ({
    code: 'missing-argument',
    message: `<${call}> needs “${name}”.`,
    hint: `It is declared so: ${declaration}`,
  }),
  unknownArgument: (call: string, name: string, nearest: string | undefined, declaration: string): Complaint => ({
    code: 'unknown-argument',
    message: `<${call}> takes no “${name}”.`,
    hint: `${nearest ? `${nearest} ` : ''}It is declared so: ${declaration}`,
  }),
  argumentTwice: (call: string, name: string): Complaint => ({
    code: 'argument-twice',
    message: `<${call}> is given “${name}” twice.`,
    hint: 'Keep one of the two.',
  }),
  unknownSlot: (name: string, owner: string, hint: string | undefined): Complaint => ({
    code: 'unknown-slot',
    message: name === 'default' ? `“${owner}” has no slot for content.` : `“${owner}” has no slot “${name}”.`,
    hint:
      hint ??
      (name === 'default'
        ? 'Add <slot></slot> to it, or leave the content out.'
        : `Add <slot name="${name}"></slot> to it.`),
  }),
  substitutedSlotName: (): Complaint => ({
    code: 'substituted-slot-name',
    message: 'The name of a slot is fixed.',
    hint: 'Write the name as plain text; choose between elements with (if …).',
  }),
  slotInRepetition: (): Complaint => ({
    code: 'slot-in-repetition',
    message: 'A (for …), (let …) or (await …) around elements with “slot” cannot fill a slot.',
    hint: 'Put the clause on the element that has the “slot”.',
  }),
  attributeOnGroup: (name: string): Complaint => ({
    code: 'attribute-on-group',
    message: `“${name}” would be lost: a <template> with a clause prints only its content.`,
    hint: 'Put the attribute on an element inside it.',
  }),
  eventHandler: (name: string): Complaint =>
    refused(
      `the event handler “${name}”`,
      'Keep the code in a script, and hand it data through a data- attribute or a JSON script.',
    ),
  refusedAttribute: (name: string, element: string): Complaint =>
    refused(`“${name}” of <${element}>`, 'Write it as fixed text; choose between elements with (if …).'),
  refusedText: (element: string): Complaint =>
    refused(
      `<${element}>`,
      `Nothing in a <${element}> can be escaped; put the value into an element, or write \\\${ for the characters.`,
    ),
  refusedScript: (): Complaint =>
    refused(
      'a script or style sheet',
      'Hand the value over in a <script type="application/json"> or a data- attribute.',
    ),
  refusedStyle: (where: string): Complaint =>
    refused(where, 'Give values to fixed declarations, as style="--depth: ${depth}", or choose a class.'),
  refusedScheme: (scheme: string): Complaint =>
    refused(
      `an address that begins with “${scheme}:”`,
      'Only http, https, mailto, tel, sms and relative addresses take values; more by configuration.',
    ),
  refusedRefresh: (): Complaint =>
    refused('the “content” of a refresh', 'Write content="5; url=${address}", so that the value is an address.'),
  untrustedCode: (what: string): Complaint =>
    refused(
      `the beginning of ${what}, which loads code`,
      'Begin with fixed text such as /scripts/, or give the whole value as ${trustedURL(…)}.',
    ),
  notJSON: (reason: string): Complaint => ({
    code: 'script-not-json',
    message: `With a 0 in the place of each substitution, this script is not JSON: ${reason}.`,
    hint: 'Let each substitution stand where a JSON value or a part of a JSON string can stand.',
  }),
};

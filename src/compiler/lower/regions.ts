/** `(region name …)`: parts of a page that can change by themselves, and where they may stand. */

import {
  type Attribute,
  type Clause,
  clauseOf,
  type Element,
  fixedValue,
  isCallName,
  type Substitution,
  type TemplateNode,
  type Text,
} from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { type Code, constant, dataLiteral, js, literal, out, type Part, runtime } from '../parts.ts';
import { isSlot } from '../set/slots.ts';
import type { Template, TemplateSet } from '../set/template-set.ts';
import { joinedText, sum } from './attribute-text.ts';
import { addressCode } from './places.ts';
import { type Completion, type Resolution, useValues } from './resolution.ts';

/** Which regions may stand in some markup: patterns of their names, or any at all. */
export interface RegionsWithin {
  /** As JSON: the fixed texts of a name around its values. */
  patterns: ReadonlySet<string>;
  any: boolean;
}

/** The regions that may stand in these nodes, in what they call and in what fills their slots. */
export function regionsWithin(nodes: readonly TemplateNode[], set: TemplateSet): RegionsWithin {
  const patterns = new Set<string>();
  let any = false;
  const collect = (node: TemplateNode): void => {
    if (node.kind !== 'element') return;
    // What fills a slot is known only to the callers.
    if (isSlot(node)) any = true;
    const region = clauseOf(node, 'region');
    if (region) patterns.add(patternOf(region.name));
    const called = calledBy(node, set);
    // Slots of a called template are filled here, between the tags of the call.
    if (called) for (const pattern of patternsOf(called, set)) patterns.add(pattern);
    node.children.forEach(collect);
  };
  nodes.forEach(collect);
  return { patterns, any };
}

/** What is known of called templates. */
const patternsByTemplate = new WeakMap<Template, ReadonlySet<string>>();

/** The regions of a template, of its layouts and of all that they call. */
function patternsOf(template: Template, set: TemplateSet): ReadonlySet<string> {
  const known = patternsByTemplate.get(template);
  if (known) return known;
  const patterns = new Set<string>();
  const seen = new Set([template]);
  for (const one of seen) {
    for (const region of one.contents.regions) patterns.add(patternOf(region.name));
    for (const name of one.contents.calls) {
      const called = set.partials.get(name);
      if (called) seen.add(called);
    }
    const layout = set.layoutOf(one);
    if (layout) seen.add(layout);
  }
  patternsByTemplate.set(template, patterns);
  return patterns;
}

function calledBy(element: Element, set: TemplateSet): Template | undefined {
  return isCallName(element.name) ? set.partials.get(element.name) : undefined;
}

/** Whether some markup holds no region, so that it may be left out when one region is wanted. */
export function holdsNoRegion(nodes: readonly TemplateNode[], set: TemplateSet): boolean {
  const { patterns, any } = regionsWithin(nodes, set);
  return patterns.size === 0 && !any;
}

/** What the element of a region is completed with. */
export function regionCompletion(
  clause: Extract<Clause, { kind: 'region' }>,
  element: Element,
  at: Resolution,
): Completion {
  useValues({ value: clause.name }, at);
  const name = joinedText(clause.name);
  const settings = settingsCode(clause, at);
  const enter = js`${runtime('enterRegion')}(${out}, ${name}, ${literal(element.name)}, ${settings}, ${holdsCode(element, at)})`;
  return {
    namePrinted: true,
    wrap: (parts): Part[] => [{ kind: 'region', enter, parts, place: clause }],
  };
}

/** Words behind a region’s name, and how each is printed. */
const settings = ['poll', 'from', 'when'];

/** ` data-loom-poll="2s"` and its like, as code. */
function settingsCode(clause: Extract<Clause, { kind: 'region' }>, at: Resolution): Code {
  const pieces: Code[] = [];
  for (const item of clause.items) {
    if (item.kind === 'spread' || !settings.includes(item.name)) {
      at.report(
        item,
        templateDiagnostic('unknown-region-setting', { name: item.kind === 'spread' ? '${...}' : item.name }),
      );
      continue;
    }
    useValues(item, at);
    const fixedText = fixedValue(item);
    if (item.name === 'poll' && (fixedText === undefined || !/^\d+(?:\.\d+)?(?:ms|s|m)$/.test(fixedText))) {
      at.report(item, templateDiagnostic('invalid-poll'));
    } else if (item.name === 'when' && fixedText !== 'near') {
      at.report(item, templateDiagnostic('invalid-when'));
    } else {
      pieces.push(js`${literal(` data-loom-${item.name}="`)} + ${runtime('escapeText')}(${settingText(item)}) + '"'`);
    }
  }
  return sum(pieces);
}

function settingText(item: Attribute): Code {
  if (item.name === 'from') return js`(${addressCode(item) ?? "''"} ?? '')`;
  return joinedText(item.value ?? []);
}

function holdsCode(element: Element, at: Resolution): Code {
  const { patterns, any } = regionsWithin(element.children, at.set);
  if (any) return js`true`;
  if (patterns.size === 0) return js`[]`;
  const name = constant('regions', ++at.count.names);
  at.hoisted.push({ name, value: js`${dataLiteral([...patterns].map((pattern) => JSON.parse(pattern)))}` });
  return js`${name}`;
}

/** The names that a region may have: its fixed texts, the first and the last too where a value stands at an end. */
function patternOf(name: Array<Text | Substitution>): string {
  const texts = [''];
  for (const part of name) {
    if (part.kind === 'text') texts[texts.length - 1] += part.text;
    else texts.push('');
  }
  return JSON.stringify(texts);
}

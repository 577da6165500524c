/** `(region name …)`: parts of a page that can change by themselves, and where they may be. */

import { guessTable } from '../../diagnostics/index.ts';
import { isRegionName } from '../../kernel/index.ts';
import { type Attribute, type Clause, type Element, fixedValue } from '../../language/index.ts';
import { type Code, constant, dataLiteral, js, literal, out, runtime, sum } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import type { Part } from '../parts.ts';
import { regionsWithin } from '../set/regions-within.ts';
import { joinedText } from './attribute-text.ts';
import { mountedURLValue } from './mounting.ts';
import type { Completion, Place } from './place.ts';
import { urlCode } from './url-places.ts';

/** What the element of a region is completed with. */
export function regionCompletion(clause: Extract<Clause, { kind: 'region' }>, element: Element, at: Place): Completion {
  const name = joinedText(clause.name);
  const fixedName = clause.name.map((part) => (part.kind === 'text' ? part.text : 'x')).join('');
  if (!isRegionName(fixedName)) at.whole.report(clause, templateDiagnostic('invalid-region-name', { name: fixedName }));
  const settings = settingsCode(clause, at);
  const enter = js`${runtime('enterRegion')}(${out}, ${name}, ${literal(element.name)}, ${settings}, ${holdsCode(element, at)})`;
  return {
    namePrinted: true,
    wrap: (parts): Part[] => [{ kind: 'region', enter, parts, place: clause }],
  };
}

/** Words after a region’s name, and how each is printed. */
const settings = ['poll', 'from', 'when', 'channel'];

/** What people try for a setting, and what is written instead. */
const settingGuesses = guessTable(
  ['poll="2s"', 'polls', 'polling', 'every', 'interval', 'refresh', 'reload', 'repeat', 'seconds'],
  ['from="/path"', 'src', 'url', 'href', 'path', 'source', 'load', 'get', 'fetch'],
  ['channel="arrivals"', 'channels', 'subscribe', 'topic', 'stream', 'live', 'push', 'listen'],
  ['when="near"', 'lazy', 'near', 'loading', 'visible', 'defer', 'trigger'],
  ['the name alone, as in (region stay-${stay.id})', 'name', 'id', 'key'],
);

/** ` data-loom-poll="2s"` and the like, as code. */
function settingsCode(clause: Extract<Clause, { kind: 'region' }>, at: Place): Code {
  const pieces: Code[] = [];
  for (const item of clause.items) {
    if (item.kind === 'spread' || !settings.includes(item.name)) {
      const name = item.kind === 'spread' ? '${...}' : item.name;
      at.whole.report(item, templateDiagnostic('unknown-region-setting', { name, instead: settingGuesses.get(name) }));
      continue;
    }
    const fixedText = fixedValue(item);
    if (item.name === 'poll' && (fixedText === undefined || !/^\d+(?:\.\d+)?(?:ms|s|m)$/.test(fixedText))) {
      at.whole.report(item, templateDiagnostic('invalid-poll'));
    } else if (item.name === 'when' && fixedText !== 'near') {
      at.whole.report(item, templateDiagnostic('invalid-when'));
    } else {
      pieces.push(
        js`${literal(` data-loom-${item.name}="`)} + ${runtime('escapeText')}(${settingText(item, at.whole.base)}) + '"'`,
      );
    }
  }
  return sum(pieces);
}

function settingText(item: Attribute, base: string): Code {
  if (item.name === 'from') return js`(${urlCode(mountedURLValue(item, base)) ?? "''"} ?? '')`;
  return joinedText(item.value ?? []);
}

function holdsCode(element: Element, at: Place): Code {
  const { patterns, any } = regionsWithin(element.children, at.whole.template, at.whole.set);
  if (any) return js`true`;
  if (patterns.size === 0) return js`[]`;
  const name = constant('regions', ++at.whole.count.names);
  at.whole.hoisted.push({ name, value: js`${dataLiteral([...patterns.values()])}` });
  return js`${name}`;
}

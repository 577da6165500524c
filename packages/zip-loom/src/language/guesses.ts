/** Words that people try for a clause, and what is written instead. One table: who looks for a word of theirs finds it here. */

import { guessTable } from '../diagnostics/index.ts';

const loop = '(for item of items) on the element that is repeated';
const choice = '(if a) … (else if b) … (else) on elements that follow each other';
const naming = '(let name = value)';
const parameters = '(takes name: Type, other = "default") on the <meta> at the start';
const call = '<berth-card berth=${berth}></berth-card>: a template is called by its name as an element';
const around = '(layout site-layout) on the <meta> at the start';
const slot = '<slot name="sidebar"></slot> in the layout, and slot="sidebar" on what fills it';
const markup = '${trustedHTML(text)} for markup that no visitor can write';
const messages = '(errors field) inside of (bind form)';
const replaced = '<slot (inherited)></slot> inside of what fills a slot';
const polling = '(region name poll="2s")';
const waiting = '(await value = promise), with (meanwhile) and (catch error) on the elements after it';
const lazy = '(region name from="/path" when="near")';
const head = '(into head) on the <link> or <script>';
const script = 'an event listener in a script; a template holds none';
const attribute = "the attribute itself: class=${['card', compact && 'compact']}, hidden=${isHidden}, title=${text}";
const text = '${value} in the content';
const nothing = 'nothing: a clause ends with its element';
const channel = 'nothing yet: there are no channels so far';

/** What is written instead of each word, after “write”. */
export const clauseGuesses: ReadonlyMap<string, string> = guessTable(
  [loop, 'foreach', 'for-each', 'each', 'repeat', 'loop', 'iterate', 'map', 'while', 'of', 'in'],
  ['(if !condition)', 'unless', 'ifnot', 'if-not', 'not', 'hide', 'hidden-if'],
  ['(else if condition)', 'elseif', 'else-if', 'elsif', 'elif'],
  ['(else) after the (for …)', 'empty', 'for-else', 'none', 'otherwise'],
  [choice, 'switch', 'case', 'match', 'when', 'default', 'choose'],
  ['(if condition)', 'show', 'visible', 'cond', 'test'],
  [naming, 'with', 'set', 'var', 'const', 'assign', 'define', 'declare', 'alias'],
  [
    parameters,
    'props',
    'params',
    'param',
    'parameters',
    'args',
    'arguments',
    'attrs',
    'attributes',
    'needs',
    'data',
    'prop',
    'take',
  ],
  [call, 'include', 'partial', 'component', 'render', 'use', 'call', 'insert', 'embed', 'is', 'view', 'fragment'],
  [around, 'extends', 'extend', 'inherits', 'inherit', 'wrap', 'wrapper', 'master', 'base', 'parent-layout'],
  [slot, 'block', 'yield', 'content', 'section', 'fill', 'outlet', 'children', 'slot', 'placeholder', 'slotted'],
  ['(named row-name) on a top-level <template>', 'template', 'macro', 'mixin', 'def', 'function', 'name', 'snippet'],
  [markup, 'raw', 'html', 'safe', 'unescaped', 'unescape', 'noescape', 'autoescape', 'verbatim', 'inner-html'],
  ['(add crew) on a button of a bound form', 'add-row', 'add-item', 'new-row', 'more', 'insert-row'],
  ['(remove crew ${i}) on a button of a bound form', 'delete', 'remove-row', 'remove-item', 'delete-row', 'drop'],
  ['(back) on a button of a form in steps', 'previous', 'prev', 'previous-step'],
  ['(select-all boats[].chosen) on a checkbox', 'all', 'check-all', 'toggle-all', 'selectall'],
  [messages, 'error', 'errors-for', 'field-error', 'field-errors', 'validation', 'invalid', 'message'],
  [replaced, 'super', 'parent', 'inherited-content', 'append', 'prepend'],
  [polling, 'poll', 'polls', 'polling', 'interval', 'every', 'reload'],
  ['(region name)', 'live', 'update', 'target', 'swap', 'replace', 'dynamic', 'regions', 'key'],
  [lazy, 'lazy', 'near', 'load', 'from', 'src'],
  [waiting, 'async', 'promise', 'suspense', 'then', 'fetch', 'pending', 'loading', 'fallback', 'waiting', 'defer'],
  ['(catch error)', 'rescue', 'on-error', 'failed', 'try', 'finally'],
  ['(bind form) on the <form>', 'form', 'model', 'field', 'form-for', 'control', 'input'],
  [head, 'head', 'push', 'stack', 'script', 'style', 'styles', 'scripts', 'once', 'portal', 'teleport'],
  [script, 'on', 'click', 'onclick', 'on-click', 'event', 'submit', 'change', 'action'],
  [attribute, 'class', 'attr', 'id', 'href', 'value', 'checked', 'selected', 'disabled', 'hidden', 'spread'],
  [text, 'text', 'print', 'echo', 'out', 'output', 'expression', 'inner-text', 'value-of'],
  ['<!--( … )--> for a note that is not sent', 'comment', 'note', 'todo', 'ignore'],
  ['(import { Type } from "…")', 'require', 'imports', 'type', 'types', 'using'],
  [nothing, 'end', 'endif', 'end-if', 'endfor', 'end-for', 'endforeach', 'endblock', 'fi', 'done', 'close'],
  [channel, 'channel', 'channels', 'subscribe', 'stream', 'socket', 'listen'],
  ['context.token is not needed: a form that posts has its token by itself', 'csrf', 'token'],
);

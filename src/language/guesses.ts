/** Words that people try for a clause, and what is written instead. One table: who looks for a word of theirs finds it here. */

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
export const clauseGuesses: ReadonlyMap<string, string> = new Map([
  ...same(loop, 'foreach', 'for-each', 'each', 'repeat', 'loop', 'iterate', 'map', 'while', 'of', 'in'),
  ...same('(if !condition)', 'unless', 'ifnot', 'if-not', 'not', 'hide', 'hidden-if'),
  ...same('(else if condition)', 'elseif', 'else-if', 'elsif', 'elif'),
  ...same('(else) after the (for …)', 'empty', 'for-else', 'none', 'otherwise'),
  ...same(choice, 'switch', 'case', 'match', 'when', 'default', 'choose'),
  ...same('(if condition)', 'show', 'visible', 'cond', 'test'),
  ...same(naming, 'with', 'set', 'var', 'const', 'assign', 'define', 'declare', 'alias'),
  ...same(
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
  ),
  ...same(
    call,
    'include',
    'partial',
    'component',
    'render',
    'use',
    'call',
    'insert',
    'embed',
    'is',
    'view',
    'fragment',
  ),
  ...same(around, 'extends', 'extend', 'inherits', 'inherit', 'wrap', 'wrapper', 'master', 'base', 'parent-layout'),
  ...same(slot, 'block', 'yield', 'content', 'section', 'fill', 'outlet', 'children', 'slot', 'placeholder', 'slotted'),
  ...same(
    '(named row-name) on a top-level <template>',
    'template',
    'macro',
    'mixin',
    'def',
    'function',
    'name',
    'snippet',
  ),
  ...same(markup, 'raw', 'html', 'safe', 'unescaped', 'unescape', 'noescape', 'autoescape', 'verbatim', 'inner-html'),
  ...same(messages, 'error', 'errors-for', 'field-error', 'field-errors', 'validation', 'invalid', 'message'),
  ...same(replaced, 'super', 'parent', 'inherited-content', 'append', 'prepend'),
  ...same(polling, 'poll', 'polls', 'polling', 'refresh', 'interval', 'every', 'reload'),
  ...same('(region name)', 'live', 'update', 'target', 'swap', 'replace', 'dynamic', 'regions', 'key'),
  ...same(lazy, 'lazy', 'near', 'load', 'from', 'src'),
  ...same(
    waiting,
    'async',
    'promise',
    'suspense',
    'then',
    'fetch',
    'pending',
    'loading',
    'fallback',
    'waiting',
    'defer',
  ),
  ...same('(catch error)', 'rescue', 'on-error', 'failed', 'try', 'finally'),
  ...same('(bind form) on the <form>', 'form', 'model', 'field', 'form-for', 'control', 'input'),
  ...same(head, 'head', 'push', 'stack', 'script', 'style', 'styles', 'scripts', 'once', 'portal', 'teleport'),
  ...same(script, 'on', 'click', 'onclick', 'on-click', 'event', 'submit', 'change', 'action'),
  ...same(attribute, 'class', 'attr', 'id', 'href', 'value', 'checked', 'selected', 'disabled', 'hidden', 'spread'),
  ...same(text, 'text', 'print', 'echo', 'out', 'output', 'expression', 'inner-text', 'value-of'),
  ...same('<!--( … )--> for a note that is not sent', 'comment', 'note', 'todo', 'ignore'),
  ...same('(import { Type } from "…")', 'require', 'imports', 'type', 'types', 'using'),
  ...same(nothing, 'end', 'endif', 'end-if', 'endfor', 'end-for', 'endforeach', 'endblock', 'fi', 'done', 'close'),
  ...same(channel, 'channel', 'channels', 'subscribe', 'stream', 'socket', 'listen'),
  ...same('context.token is not needed: a form that posts has its token by itself', 'csrf', 'token'),
]);

function same(instead: string, ...words: readonly string[]): Array<[string, string]> {
  return words.map((word) => [word, instead]);
}

/** What developers see in place of a page that failed: the place in the template, the chain of calls, the data. */
import { asError, DiagnosticError, formatCalls, isThrown, TemplateError } from '../../diagnostics/index.ts';
import { memoryStore } from '../create/options.ts';
import { compiledProgram } from '../program/compiled-program.ts';
import { Renderer } from '../render/renderer.ts';
import type { PageFailure } from '../respond/failure-page.ts';
import { dataInWords } from './data-words.ts';

/** The page that developers see. A template like any other. */
const template = `<meta (takes title, code, place, message, hint, frame, calls, more: unknown[], data, stack)>
<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>\${title}</title>
    <style>
      :root { color-scheme: light dark; --mark: light-dark(#a3212b, #ff9aa0); --quiet: light-dark(#58616b, #a7b0ba); --box: light-dark(#f3f5f7, #1d2329); }
      body { font: 1rem/1.5 system-ui, sans-serif; margin: 0 auto; max-width: 68rem; padding: 2rem 1rem; background: light-dark(#fff, #12161a); color: light-dark(#1c2126, #e8ecf0); }
      h1 { font-size: 1.5rem; line-height: 1.3; margin: 0 0 .5rem; overflow-wrap: anywhere; }
      h2 { font-size: 1rem; margin: 2rem 0 .5rem; }
      .code { color: var(--mark); font-weight: 600; margin: 0 0 .5rem; }
      .quiet { color: var(--quiet); overflow-wrap: anywhere; }
      pre { background: var(--box); border-left: .25rem solid var(--mark); font: .9rem/1.5 ui-monospace, monospace; margin: 1rem 0; overflow-x: auto; padding: .75rem 1rem; }
      .data { overflow-wrap: anywhere; white-space: pre-wrap; }
    </style>
  </head>
  <body>
    <main>
      <p class="code">\${code}</p>
      <h1>\${message}</h1>
      <p (if hint)>\${hint}</p>
      <p (if place) class="quiet">\${place}</p>
      <pre (if frame) tabindex="0" aria-label="The place in the template">\${frame}</pre>
      <p (if calls) class="quiet">\${calls}</p>
      <template (if more.length)>
      <h2>Also</h2>
      <pre (for text of more) tabindex="0">\${text}</pre>
      </template>
      <template (if data)>
      <h2>What the page was given</h2>
      <pre class="data" tabindex="0" aria-label="What the page was given">\${data}</pre>
      </template>
      <template (if stack)>
      <h2>Where it came from</h2>
      <pre tabindex="0" aria-label="Stack">\${stack}</pre>
      </template>
      <p class="quiet">This page is shown in development only. Fix the template and load the page again.</p>
    </main>
  </body>
</html>
`;

let renderer: Renderer | undefined;

/** The page for an error, with the nonce of the request for its style. */
export function developersPage({ error, data, context: { nonce } }: PageFailure): string {
  renderer ??= new Renderer(
    compiledProgram(memoryStore({ 'pages/error.html': template }), {}, 'production'),
    {},
    'production',
  );
  return renderer.pageAtOnce('error', details(error, data), nonce === undefined ? {} : { nonce });
}

/** What the page shows of an error. */
interface Details {
  title: string;
  code: string;
  place: string;
  message: string;
  hint: string;
  frame: string;
  calls: string;
  more: string[];
  data: string;
  stack: string | undefined;
}

function details(error: unknown, data: object): Details {
  const known = asError(error);
  const code = 'code' in known && typeof known.code === 'string' ? known.code : known.name;
  const common: Details = {
    title: code,
    code,
    place: '',
    message: known.message,
    hint: '',
    frame: '',
    calls: '',
    more: [],
    data: dataInWords(data),
    stack: withoutOwnFrames(known.stack ?? ''),
  };
  if (!isThrown(error, DiagnosticError)) return common;
  const { diagnostic, cause } = error;
  const said: Details = { ...common, message: diagnostic.message, hint: diagnostic.hint };
  if (!isThrown(error, TemplateError)) return said;
  return {
    ...said,
    title: `${code} · ${error.file}`,
    place: `${error.file}, line ${error.line}, column ${error.column}`,
    frame: error.frame,
    calls: error.calls.length > 1 ? formatCalls(error.calls) : '',
    more: error.others.map((other) => other.format()),
    stack: cause === undefined ? '' : withoutOwnFrames(asError(cause).stack ?? ''),
  };
}

/** A stack as far as it is the project’s: the chain of templates is told elsewhere, and the inside of the library helps nobody. */
function withoutOwnFrames(stack: string): string {
  const isOwn = (line: string) => /^\s+at .*(?:zip-loom-template:|\/node_modules\/zip-loom\/)/.test(line);
  return stack
    .split('\n')
    .filter((line) => !isOwn(line))
    .join('\n');
}

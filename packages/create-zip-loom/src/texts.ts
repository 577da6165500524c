/** Templates, samples and styles of a new project: the same in every language. */

export const layout = `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title><slot name="title">Welcome</slot> · The log</title>
    <link rel="stylesheet" href="/site.css">
    <script type="module" async src="/client.min.js"></script>
  </head>
  <body>
    <a class="skip" href="#content">Skip to the content</a>
    <nav aria-label="Main">
      <a
        (for [href, text] of [['/', 'Log'], ['/about', 'About']])
        href=\${pathTo(href)}
        aria-current=\${context.url?.pathname === pathTo(href) ? 'page' : null}
      >\${text}</a>
    </nav>
    <main id="content">
      <flash-messages></flash-messages>
      <slot></slot>
    </main>
  </body>
</html>
`;

export const typedHead = `<meta
  (import { Entry } from "../../log.ts")
  (import { EntryForm } from "../../forms.ts")
  (takes entries: Entry[], entryForm: EntryForm)
>
`;

export const home = `<title slot="title">Who came in</title>
<h1>Who came in</h1>
<form (bind entryForm) action="/" method="post" (region write)>
  <p (errors)></p>
  <form-field name="boat"></form-field>
  <form-field name="remark" rows="3"></form-field>
  <p><button>Write it down</button></p>
</form>
<section aria-labelledby="log-title" (region log)>
  <h2 id="log-title">\${plural(entries.length, 'entry', 'entries')}</h2>
  <ol>
    <li (for entry of entries)><log-entry entry=\${entry}></log-entry></li>
  </ol>
</section>
`;

export const entry = `<b>\${entry.boat}</b> <time datetime=\${entry.at}>\${dateTime(entry.at)}</time>
<p (if entry.remark)>\${entry.remark}</p>
`;

export const samples = `{
  "usual": {
    "entry": { "id": 1, "boat": "Quiet Tern", "remark": "Came in at high water.", "at": "2026-06-12T13:20:00Z" }
  },
  "without a remark": { "entry": { "id": 2, "boat": "Salt Plover", "at": "2026-06-12T14:05:00Z" } }
}
`;

export const about = `<title slot="title">About</title>
<h1>About this log</h1>
<p>Skippers write down when they come in. Everything works without JavaScript; with it, only what has changed is sent.</p>
`;

export const styles = `:root {
  color-scheme: light dark;
  --ink: light-dark(#16202a, #e8eef2);
  --quiet: light-dark(#55636f, #a5b3bd);
  --paper: light-dark(#fbfaf6, #12181d);
  --sea: light-dark(#0a5c6b, #7fd0de);
  --line: light-dark(#d3dae0, #33404a);
  --wrong: light-dark(#a1260d, #ff9c85);
}

body {
  background: var(--paper);
  color: var(--ink);
  font: 1.05rem / 1.55 system-ui, sans-serif;
  margin: 0 auto;
  max-width: 40rem;
  padding: 0 1rem 3rem;
}

.skip:not(:focus) {
  position: absolute;
  translate: 0 -200%;
}

nav {
  border-bottom: 1px solid var(--line);
  display: flex;
  gap: 1.2rem;
  padding: 0.9rem 0;
}

a {
  color: var(--sea);
}

[aria-current] {
  font-weight: 600;
  text-decoration: none;
}

label {
  font-weight: 600;
}

form > * {
  margin: 0 0 1rem;
}

input,
textarea {
  background: none;
  border: 1px solid var(--quiet);
  border-radius: 6px;
  box-sizing: border-box;
  color: inherit;
  display: block;
  font: inherit;
  margin-top: 0.25rem;
  padding: 0.45rem 0.6rem;
  width: 100%;
}

[aria-invalid="true"] {
  border-color: var(--wrong);
}

.field-errors,
.field-error {
  color: var(--wrong);
}

button {
  background: var(--sea);
  border: 0;
  border-radius: 6px;
  color: var(--paper);
  cursor: pointer;
  font: inherit;
  font-weight: 600;
  min-height: 2.75rem;
  padding: 0 1.2rem;
}

:focus-visible {
  outline: 3px solid var(--sea);
  outline-offset: 2px;
}

ol {
  list-style: none;
  padding: 0;
}

li {
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
  padding: 0.6rem 0;
}

li p {
  margin: 0;
}

time {
  color: var(--quiet);
}
`;

/** Types of the templates, as `zip-loom types` writes them. */
export const types = `// Written by zip-loom from the templates; changes here are lost.
export {};

declare module 'zip-loom' {
  interface Pages {
    /** templates/pages/about.html */
    'about': Record<never, never>;
    /** templates/pages/home.html */
    'home': { entries: import('./log.ts').Entry[]; entryForm: import('./forms.ts').EntryForm };
  }

  interface Partials {
    /** templates/partials/log-entry.html */
    'log-entry': { entry: import('./log.ts').Entry };
    /** templates/layouts/site-layout.html */
    'site-layout': Record<never, never>;
  }
}
`;
